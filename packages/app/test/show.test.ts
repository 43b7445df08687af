import { DEMO_SHOW } from '@vast-swarm/core/demo';
import type { NightRow } from '@vast-swarm/core/show';
import { Masters } from '../src/show/masters';
import { Replay } from '../src/show/replay';
import { nextCue } from '../src/show/showKeys';
import { Ways } from '../src/show/ways';

beforeEach(() => {
  jest.useFakeTimers();
});
afterEach(() => {
  jest.useRealTimers();
});

test('what is sent on its way by the clock ends exactly at its target, and one that overtakes it goes on from there', () => {
  const ways = new Ways();
  const seen: number[] = [];
  const step = (value: unknown): void => {
    seen.push(value as number);
  };
  ways.send('a', { from: 0.4, to: 1, over: 3, ease: 'straight' }, step);
  jest.advanceTimersByTime(1500);
  expect(seen.at(-1)).toBeCloseTo(0.7, 1);
  expect(seen.every((v, i) => i === 0 || v >= seen[i - 1]!)).toBe(true);
  ways.send('a', { from: seen.at(-1)!, to: 0, over: 1 }, step);
  jest.advanceTimersByTime(5000);
  expect(seen.at(-1)).toBe(0);
  // It has arrived: nothing runs any more.
  expect(jest.getTimerCount()).toBe(0);
  ways.send('a', { from: 0, to: 0.3, over: 0 }, step);
  expect(seen.at(-1)).toBe(0.3);
});

test('what is under way can be taken over, with the seconds that are left', () => {
  const ways = new Ways();
  ways.send('a', { from: 0, to: 1, over: 4 }, () => undefined);
  ways.send('b', { from: 0, to: 1, over: 1 }, () => undefined);
  ways.send('c', { from: 0, to: 1, over: 9 }, () => undefined);
  ways.forget('c');
  jest.advanceTimersByTime(3000);
  const [only, ...more] = ways.end();
  expect(only).toMatchObject({ name: 'a', to: 1 });
  expect(only!.left).toBeCloseTo(1, 5);
  expect(more).toEqual([]);
  expect(jest.getTimerCount()).toBe(0);
});

test('masters say what was done before what is seen of it, and stand still by hold and by speed', () => {
  const told: string[] = [];
  const masters = new Masters(
    { brightness: 0.8, speed: 1 },
    {
      done: (act) => told.push(JSON.stringify(act)),
      seen: () => told.push('seen'),
      paced: () => told.push('paced'),
    },
  );
  masters.darken(true);
  expect(told.splice(0)).toEqual(['{"all":"blackout","to":true}', 'seen']);
  masters.pace(0);
  expect(masters.goes).toBe(false);
  masters.pace(2);
  masters.hold(true);
  expect(masters.goes).toBe(false);
  masters.hold(false);
  expect(masters.goes).toBe(true);
  masters.shine(0, 2);
  expect(told).toContain('{"all":"brightness","to":0,"over":2}');
  jest.advanceTimersByTime(2100);
  expect(masters.brightness).toBe(0);
  // A fade that is under way ends where a night is set.
  masters.shine(1, 9);
  masters.set({ brightness: 0.5, speed: 1 });
  jest.advanceTimersByTime(9000);
  expect([masters.brightness, masters.blackout]).toEqual([0.5, false]);
});

test('a night that is seen again does at each second what was done, in order, and no more behind another stretch', () => {
  const row = (stretch: number, at: number, act: NightRow['act']): NightRow => ({
    time: 10 * stretch + at,
    stretch,
    at,
    entry: 'a',
    act,
  });
  const replay = new Replay([
    row(0, 0, { all: 'go', entry: 'a' }),
    row(1, 0.5, { control: 'spread', to: 1 }),
    row(1, 1, { all: 'held', to: true }),
    row(1, 1, { all: 'held', to: false }),
    row(1, 2, { all: 'jump', to: 0 }),
    row(1, 2, { all: 'blackout', to: true }),
    row(2, -3600, { control: 'spread', to: 1 }),
    row(2, 3, { all: 'go', entry: 'b' }),
  ]);
  expect(replay.next(0)).toEqual({ entry: 'a', stretch: 1 });
  expect(replay.next(1)).toEqual({ entry: 'b', stretch: 3 });
  expect(replay.next(3)).toBeNull();
  expect(replay.played(1)).toEqual([{ at: 0.5, control: 'spread', to: 1 }]);
  const done: string[] = [];
  const reach = (stretch: number, second: number): string[] => {
    replay.reached(stretch, second, ({ all }) => done.push(all));
    return done.splice(0);
  };
  expect(reach(1, 0.9)).toEqual([]);
  expect(reach(1, 1)).toEqual(['held', 'held']);
  expect(reach(1, 1.9)).toEqual([]);
  expect(reach(1, 2.1)).toEqual(['jump']);
  expect(reach(2, 0)).toEqual([]);
  expect(reach(2, 5)).toEqual(['go']);
});

test('the next cue is the one behind the last that began, of those that are on', () => {
  const { piece } = DEMO_SHOW.pieces.find((p) => p.id === 'ember-barge')!;
  const cues = piece.cues.map((c) => (c.id === 'open' ? { ...c, on: false } : c));
  expect(nextCue({ ...piece, cues }, null)).toBe('kindle');
  expect(nextCue({ ...piece, cues }, 'kindle')).toBe('gust');
  expect(nextCue({ ...piece, cues }, cues.at(-1)!.id)).toBeNull();
  expect(nextCue(null, null)).toBeNull();
});
