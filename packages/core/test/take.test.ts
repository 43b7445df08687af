import { LiveTake } from '@vast-swarm/core/feeds';
import { takeAt } from '../src/feeds/take';

const take = { rate: 25, first: 10, values: [0.2, 0.6, 0.4] };

test('a take is what it was at the end of each frame, and straight between', () => {
  expect(takeAt(take, 11 / 25, 0.9)).toBe(0.2);
  expect(takeAt(take, 12 / 25, 0.9)).toBe(0.6);
  expect(takeAt(take, 12.25 / 25, 0.9)).toBeCloseTo(0.55, 9);
  expect(takeAt(take, 10 / 25, 0.9)).toBe(0.9);
  expect(takeAt(take, 10.5 / 25, 0.9)).toBeCloseTo(0.55, 9);
  expect(takeAt(take, 100, 0.9)).toBe(0.4);
  expect(takeAt({ ...take, values: [] }, 1, 0.3)).toBe(0.3);
});

test('recording overwrites, fills what was left out, and begins earlier where it has to', () => {
  const live = new LiveTake(take, 25, 0);
  live.write(11, 1);
  live.write(15, 0.5);
  live.write(8, 0.7);
  expect(live.copy()).toEqual({
    rate: 25,
    first: 8,
    values: [0.7, 0.7, 0.2, 1, 0.4, 0.4, 0.4, 0.5],
  });
  expect(take.values).toEqual([0.2, 0.6, 0.4]);
});

test('a take of another rate keeps its times', () => {
  const live = new LiveTake(take, 50, 0);
  for (const time of [11 / 25, 12 / 25, 12.5 / 25, 13 / 25]) {
    expect(takeAt(live, time, 0)).toBeCloseTo(takeAt(take, time, 0), 9);
  }
});
