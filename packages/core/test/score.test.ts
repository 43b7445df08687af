import { compilePiece, Scene } from '@vast-swarm/core/plan';
import { eased } from '../src/feeds/shape';
import {
  LivePlay,
  makePart,
  makePiece,
  PLAYED,
  type Part,
  type Piece,
  type Played,
} from '@vast-swarm/core/piece';
import type { ControlValue } from '@vast-swarm/core/feeds';

const RATES = [24, 24000 / 1001, 25, 30, 50, 60000 / 1001, 60];

function fader(id: string, dials: Part['dials'] = {}): Part {
  const part = makePart('controls', 'fader', []);
  return { ...part, id, name: id, dials: { ...part.dials, ...dials } };
}

function cue(id: string, dials: Part['dials']): Part {
  const part = makePart('cues', 'cue', []);
  return { ...part, id, name: id, dials: { ...part.dials, ...dials } };
}

function pieceOf(parts: Partial<Piece>, rate = 30): Piece {
  const piece = makePiece('Any');
  return { ...piece, frame: { ...piece.frame, rate, length: 3000 }, ...parts };
}

/** What a control is at the end of a frame. */
function at(scene: Scene, control: string, frame: number): ControlValue | undefined {
  return scene.score!.at(control, (frame + 1) / scene.rate);
}

test.each(RATES)(
  'a cue ends exactly on its target, at its frame, at %f frames a second',
  (rate) => {
    for (const over of [0.1, 0.5, 1, 3, 7.3]) {
      for (const begins of [0, 0.4, 1, 2.5]) {
        const first = Math.round(begins * rate);
        const sets = [{ control: 'spread', to: 0.7 }];
        const piece = pieceOf(
          {
            controls: [fader('spread', { rest: 0.4 })],
            cues: [cue('out', { sets, over, ease: 'smooth' })],
            played: [{ at: first / rate, cue: 'out' }],
          },
          rate,
        );
        const scene = new Scene(piece);
        // The frame whose end is the first at or behind the end of the cue.
        const last = Math.ceil(first + over * rate - 1e-6) - 1;
        if (first > 0) expect(at(scene, 'spread', first - 1)).toBe(0.4);
        if (last > first) expect(at(scene, 'spread', last - 1)).not.toBe(0.7);
        for (const frame of [last, last + 1, last + 500])
          expect(at(scene, 'spread', frame)).toBe(0.7);
        // Half the way, where a frame is there.
        const part = 1 / rate / over;
        if (part < 1)
          expect(at(scene, 'spread', first)).toBeCloseTo(0.4 + 0.3 * eased('smooth', part), 9);
      }
    }
  },
);

test('what is set at a frame is not seen in the one before, and whole in its own', () => {
  const rate = 60000 / 1001;
  for (let frame = 1; frame < 400; frame += 7) {
    const played: Played[] = [{ at: frame / rate, control: 'wind', to: 1 }];
    const scene = new Scene(pieceOf({ controls: [fader('wind')], played }, rate));
    expect([at(scene, 'wind', frame - 1), at(scene, 'wind', frame)]).toEqual([0, 1]);
  }
});

test('a cue that is overtaken is left from where it stands', () => {
  const controls = [fader('spread')];
  const cues = [
    cue('up', { sets: [{ control: 'spread', to: 1 }], over: 4, ease: 'straight' }),
    cue('down', { sets: [{ control: 'spread', to: 0 }], over: 2, ease: 'straight' }),
  ];
  const played: Played[] = [
    { at: 1, cue: 'up' },
    { at: 2, cue: 'down' },
  ];
  const { score } = new Scene(pieceOf({ controls, cues, played }));
  expect(score!.at('spread', 2)).toBeCloseTo(0.25, 9);
  expect(score!.at('spread', 3)).toBeCloseTo(0.125, 9);
  expect(score!.at('spread', 4)).toBe(0);
  expect(score!.at('spread', 100)).toBe(0);
});

test('cues wait, and take the next with them or behind them', () => {
  const set = (control: string) => [{ control, to: 1 }];
  const piece = pieceOf({
    controls: [fader('a'), fader('b'), fader('c')],
    cues: [
      cue('one', { sets: set('a'), over: 1, wait: 0.5, next: 'together', by: 'yes', at: 2 }),
      cue('two', { sets: set('b'), over: 0.5, next: 'after' }),
      cue('off', { sets: set('c'), over: 0 }),
      cue('three', { sets: set('c'), over: 2 }),
    ],
  });
  piece.cues[2]!.on = false;
  const { score } = new Scene(piece);
  expect(score!.until(60).begun).toEqual([
    { at: 2.5, cue: 'one' },
    { at: 2.5, cue: 'two' },
    { at: 3, cue: 'three' },
  ]);
  expect(['a', 'b', 'c'].map((id) => score!.at(id, 3))).toEqual([0.5, 1, 0]);
});

test('a signal fires a cue each time it rises, also one that the cue itself moves', () => {
  const wave = makePart('signals', 'wave', []);
  Object.assign(wave.dials, { shape: 'square', period: 2 });
  const piece = pieceOf({
    signals: [wave],
    controls: [fader('a'), fader('self')],
    cues: [
      cue('beat', { sets: [{ control: 'a', to: 1 }], signal: wave.id }),
      cue('own', { sets: [{ control: 'self', to: 1 }], over: 1, signal: 'self', threshold: 0.5 }),
    ],
    played: [{ at: 3, control: 'self', to: 1, over: 2, ease: 'straight' }],
  });
  const fired = (list: readonly { at: number; cue: string }[], id: string): number[] =>
    list.filter((b) => b.cue === id).map((b) => b.at);
  const { begun } = new Scene(piece).score!.until(9);
  // It fires itself once, where it is carried over its threshold: it then is over it.
  expect(fired(begun, 'own')).toHaveLength(1);
  expect(fired(begun, 'own')[0]).toBeCloseTo(4, 2);
  const beats = fired(begun, 'beat');
  expect(beats.length).toBeGreaterThanOrEqual(4);
  for (let i = 1; i < beats.length; i++) expect(beats[i]! - beats[i - 1]!).toBeCloseTo(2, 2);
});

/** A row of numbers that looks random and is the same each time. */
function* chances(seed: number): Generator<number> {
  let state = seed + 1;
  for (;;) {
    state = (state * 48271) % 2147483647;
    yield state / 2147483647;
  }
}

test('200 random plays: live, from the take, and asked for in any order they are the same', () => {
  for (let seed = 0; seed < 200; seed++) {
    const chance = chances(seed);
    const next = (): number => chance.next().value as number;
    const rate = RATES[seed % RATES.length]!;
    const wave = makePart('signals', 'wave', []);
    const ids = ['a', 'b', 'c'];
    const sets = (): { control: string; to: number }[] =>
      ids.filter(() => next() < 0.6).map((control) => ({ control, to: next() }));
    const cues = Array.from({ length: 5 }, (_, i) =>
      cue(`cue${String(i)}`, {
        sets: sets(),
        over: next() * 3,
        wait: next() < 0.3 ? next() : 0,
        next: (['rests', 'together', 'after'] as const)[Math.floor(next() * 3)]!,
        signal: i === 4 ? wave.id : '',
        ...(i === 3 ? { by: 'yes', at: next() * 4 } : {}),
      }),
    );
    const piece = pieceOf({ signals: [wave], controls: ids.map((id) => fader(id)), cues }, rate);
    const input = new LivePlay([]);
    const live = new Scene(piece, new Map(), new Map([[PLAYED, input]]));
    const seen: unknown[] = [];
    const frames = 150;
    for (let frame = 0; frame < frames; frame++) {
      const moment = frame / rate;
      if (next() < 0.1)
        input.add({
          at: moment,
          control: ids[Math.floor(next() * 3)]!,
          to: next(),
          over: next() < 0.5 ? 0 : next(),
        });
      if (next() < 0.05) input.add({ at: moment, cue: `cue${String(Math.floor(next() * 5))}` });
      seen.push(ids.map((id) => at(live, id, frame)));
    }
    const taken = new Scene({
      ...piece,
      played: JSON.parse(JSON.stringify(input.events)) as Played[],
    });
    const again = seen.map((_, frame) => ids.map((id) => at(taken, id, frame)));
    expect(again).toEqual(seen);
    const backwards = new Scene({ ...piece, played: input.events });
    for (let frame = frames - 1; frame >= 0; frame -= 13) {
      expect(ids.map((id) => at(backwards, id, frame))).toEqual(seen[frame]);
    }
  }
});

test('colours go as light, gradients by their stops, and what cannot be mixed is there at once', () => {
  const colour = { ...makePart('controls', 'colour', []), id: 'tint' };
  colour.dials.rest = '#000000';
  const gradient = { ...makePart('controls', 'gradient', []), id: 'fire' };
  const blue = [
    { at: 0, colour: '#0000ff', light: 4 },
    { at: 1, colour: '#000000' },
  ];
  const onOff = { ...makePart('controls', 'switch', []), id: 'sparks' };
  const played: Played[] = [
    { at: 1, control: 'tint', to: '#ffffff', over: 2, ease: 'straight' },
    { at: 1, control: 'fire', to: blue, over: 2, ease: 'straight' },
    { at: 1, control: 'sparks', to: false, over: 2 },
  ];
  const { score } = new Scene(pieceOf({ controls: [colour, gradient, onOff], played }));
  // An eighth of the light is half of its cube root: 0.125 as sRGB is 0x63.
  expect(['tint', 'sparks'].map((id) => score!.at(id, 2))).toEqual(['#636363', false]);
  expect(['tint', 'fire'].map((id) => score!.at(id, 3))).toEqual(['#ffffff', blue]);
  const half = score!.at('fire', 2) as { at: number; colour: string; light?: number }[];
  expect(half.length).toBeLessThanOrEqual(32);
  expect(half.map((s) => s.at)).toEqual([...half.map((s) => s.at)].sort((a, b) => a - b));
  expect([half[0]!.at, half.at(-1)!.at]).toEqual([0, 1]);
});

test('a control out of its range is kept at its end; one that is off moves nothing', () => {
  const controls = [fader('a', { low: 2, high: 5, rest: 9 }), fader('b', { low: 0, high: 0 })];
  const played: Played[] = [{ at: 1, control: 'a', to: -100 }];
  const piece = pieceOf({ controls, played });
  const { score } = new Scene(piece);
  expect([score!.at('a', 1), score!.at('a', 2), score!.at('b', 2)]).toEqual([5, 2, 0]);
  piece.controls[0]!.on = false;
  expect(new Scene(piece).score!.at('a', 2)).toBeUndefined();
});

test('a fader moves each dial in its own range and on its own curve, and is a signal itself', () => {
  const piece = pieceOf({
    forces: [makePart('forces', 'gravity', [])],
    controls: [
      fader('wind', {
        low: 0,
        high: 10,
        rest: 5,
        moves: [
          { place: 'forces.gravity.strength', from: 1, to: 3 },
          { place: 'forces.gravity.direction.x', from: -1, to: 1, ease: 'linger' },
        ],
      }),
    ],
    played: [{ at: 1, control: 'wind', to: 10, over: 1, ease: 'straight' }],
  });
  const { numbers } = compilePiece(piece).tracks;
  expect(numbers.get('wind')!(0.5)).toBe(5);
  expect(numbers.get('wind/straight')!(1.5)).toBeCloseTo(0.75, 12);
  expect(numbers.get('wind/linger')!(1.5)).toBeCloseTo(0.75 ** 3, 12);
  expect(numbers.get('wind/straight')!(2)).toBe(1);
});
