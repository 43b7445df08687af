import { compilePiece, motionKeys } from '@vast-swarm/core/plan';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import {
  LivePlay,
  makePart,
  PLAYED,
  type Part,
  type Piece,
  type Played,
} from '@vast-swarm/core/piece';
import { EVENTS, played } from '../../../tests/support/played';

/** What plans of a piece with controls have in common, and what tells stored motion that it is stale. */

const barge = DEMO_SHOW.pieces.find((p) => p.id === 'ember-barge')!.piece;

function changed(change: (piece: Piece) => void, of = barge): Piece {
  const copy = structuredClone(of);
  change(copy);
  return copy;
}

function cueOf(piece: Piece, id: string): Part {
  return piece.cues.find((c) => c.id === id)!;
}

const key = (piece: Piece, swarm: string): string => motionKeys(piece, new Map()).get(swarm)!;

test('all plans of a piece are of one motion, and lead to each other', () => {
  const plan = compilePiece(played((p) => (p.played = [...EVENTS])));
  const all = Array.from({ length: 90 }, (_, frame) => plan.at(frame));
  expect(new Set(all.map((p) => p.motionKey)).size).toBe(1);
  expect(new Set(all.map((p) => p.finish.remembers))).toEqual(new Set([true]));
  const last = all.at(-1)!;
  expect(all.every((p) => p.at(89) === last)).toBe(true);
  // As many as there are values: the colour fades for a second, twice.
  const count = new Set(all).size;
  expect(count).toBeGreaterThan(20);
  expect(count).toBeLessThan(70);
});

test('where nothing is switched there is one plan, and its signals are made once', () => {
  const plan = compilePiece(
    changed((p) => (p.controls = p.controls.filter((c) => c.kind === 'fader'))),
  );
  for (let frame = 0; frame < 720; frame += 48) expect(plan.at(frame) === plan).toBe(true);
  const whole = compilePiece(barge);
  const numbers = [0, 520, 700].map((frame) => whole.at(frame).tracks.numbers);
  expect(numbers[0] === numbers[1] && numbers[1] === numbers[2]).toBe(true);
});

test('a finish that remembers once it is switched on remembers from the beginning', () => {
  const off = (held: boolean): boolean => {
    const piece = played((p) => {
      p.finish.at(-1)!.on = false;
      const echo = p.controls.find((c) => c.id === 'echo')!;
      echo.dials.rest = 'off';
      if (!held) p.controls = p.controls.filter((c) => c !== echo);
    });
    return compilePiece(piece).finish.remembers;
  };
  expect([off(true), off(false)]).toEqual([true, false]);
});

test('stored motion is stale where what moves it is another, and is not where that is a look or a name', () => {
  const own = (change: (piece: Piece) => void, swarm = 'flames'): boolean =>
    key(changed(change), swarm) === key(barge, swarm);
  // Names, groups, keys, and what a cue is called: nothing that moves.
  expect(
    own((p) => {
      p.controls[0]!.name = 'Width';
      Object.assign(p.controls[0]!.dials, { group: 'Any', key: 'q', learnt: 'osc /a' });
      cueOf(p, 'gust').dials.key = '9';
    }),
  ).toBe(true);
  // A target, a duration, what was played, a range: the wind moves all.
  const gust: Played = { at: 3, cue: 'gust' };
  for (const change of [
    (p: Piece) => (cueOf(p, 'gust').dials.over = 2),
    (p: Piece) => (p.played = [gust]),
    (p: Piece) => (p.controls.find((c) => c.id === 'wind')!.dials.rest = 1),
    (p: Piece) => (p.controls.find((c) => c.id === 'wind')!.on = false),
  ]) {
    expect(own((p) => void change(p))).toBe(false);
  }
});

test('a swarm that no control reaches keeps its motion, whatever is played', () => {
  const plain = changed((p) => {
    p.forces = [];
    p.influence = {};
    p.controls = p.controls.filter((c) => c.id === 'sparks');
    p.cues = [];
  });
  const cued = changed((p) => {
    p.played = [{ at: 2, control: 'sparks', to: 1 }];
  }, plain);
  expect(key(cued, 'flames')).toBe(key(plain, 'flames'));
  expect(key(cued, 'sparks')).not.toBe(key(plain, 'sparks'));
  // A burst of it is motion too.
  const burst = changed((p) => {
    const cue = makePart('cues', 'cue', []);
    cue.dials.bursts = [{ swarm: 'flames', count: 9 }];
    p.cues = [cue];
  }, plain);
  expect(key(burst, 'flames')).not.toBe(key(plain, 'flames'));
});

test('while it is played live there is room for what may come', () => {
  const piece = changed((p) => {
    p.controls.find((c) => c.id === 'spread')!.dials.rest = 0;
    for (const cue of p.cues) cue.dials.by = 'no';
  });
  const room = (live: boolean): Record<string, number> => {
    const input = new LivePlay(piece.played);
    const plan = compilePiece(piece, live ? { live: new Map([[PLAYED, input]]) } : {});
    return Object.fromEntries(plan.swarms.map((s) => [s.id, s.capacity]));
  };
  const [still, live] = [room(false), room(true)];
  // The rate goes from 380 to 2,400 a second; a shower has 1,400 sparks.
  expect(live.flames! / still.flames!).toBeGreaterThan(5);
  expect(live.sparks! - still.sparks!).toBeGreaterThan(1400);
  expect(live.smoke).toBe(still.smoke);
});

test('what grows live keeps its order, and tells from when on it is another', () => {
  const play = new LivePlay([{ at: 1, cue: 'a' }]);
  expect([play.changes, play.changedFrom(0)]).toEqual([0, Infinity]);
  play.add({ at: 3, control: 'x', to: 1 });
  play.add({ at: 2, control: 'x', to: 2 });
  play.add({ at: 2, cue: 'b' });
  expect(play.events.map((e) => e.at)).toEqual([1, 2, 2, 3]);
  expect(play.events[2]).toEqual({ at: 2, cue: 'b' });
  expect([play.changedFrom(0), play.changedFrom(1), play.changedFrom(3)]).toEqual([2, 2, Infinity]);
  // Only the control, and only between the two.
  play.clear('y', 0, 9);
  expect(play.changes).toBe(3);
  play.clear('x', 2.5, 3);
  expect(play.events.map((e) => e.at)).toEqual([1, 2, 2]);
  expect(play.changedFrom(3)).toBe(2.5);
});
