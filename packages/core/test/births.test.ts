import { BirthSchedule, mostAlive } from '../src/plan/motion/births';
import { defaults } from '../src/language/dials';
import { remap } from '@vast-swarm/core/plan';
import { slotRanges } from '../src/plan/motion/slots';
import { swarmDials } from '@vast-swarm/core/kinds';
import type { SwarmValues } from '../src/sections/swarms/swarmDials';

function schedule(
  dials: Record<string, number | string>,
  begin = 0,
  each: number | null = null,
): BirthSchedule {
  const all = { ...defaults(swarmDials), rate: 0, ...dials } as ReturnType<typeof defaults>;
  const scene = { follow: () => () => 0, changes: () => 0, rate: 30, density: 1 };
  return new BirthSchedule(all as SwarmValues, begin, scene, each);
}

test.each([24, 25, 29.97, 30, 60, 144])(
  'births per second are exact at %d frames a second',
  (fps) => {
    for (const rate of [1, 7, 1000, 9600]) {
      const s = schedule({ rate });
      for (const second of [0, 1, 13, 59]) {
        expect(s.bornBefore(second + 1) - s.bornBefore(second)).toBe(rate);
      }
      let counted = 0;
      for (let f = 0; f < Math.round(fps * 5); f++) {
        for (const e of s.between(f / fps, (f + 1) / fps)) {
          expect(e.first).toBe(counted);
          counted += e.count;
        }
      }
      expect(counted).toBe(s.bornBefore(Math.round(fps * 5) / fps));
    }
  },
);

test.each<Record<string, number | string>>([
  { when: 'once', start: 0.7 },
  { when: 'once', start: 0.2, loop: 1.3 },
  { when: 'oneByOne', rate: 20, start: 0.4 },
  { when: 'oneByOne', rate: 90, loop: 1 },
  { rate: 50, start: 0.5, end: 2.25 },
  { burst: 10, burstAt: 1 },
  { rate: 33, burst: 5, burstAt: 0.3, loop: 1.1 },
  { rate: 10, start: 0.2, end: 0.4, loop: 0.05 },
  { burst: 3, loop: 0.01 },
])('events and counts agree, whatever the frames: %j', (dials) => {
  const s = schedule(dials, -1, 37);
  for (const fps of [7, 30, 61]) {
    let first = s.bornBefore(-1);
    for (let f = -fps; f < 4 * fps; f++) {
      const [from, to] = [f / fps, (f + 1) / fps];
      for (const e of s.between(from, to)) {
        expect(e.first).toBe(first);
        expect(e.time).toBeGreaterThanOrEqual(from - 1e-6);
        expect(e.time + (e.count - 1) * e.every).toBeLessThan(to + 1e-6);
        first += e.count;
      }
      expect(first).toBe(s.bornBefore(to));
    }
  }
});

test.each([24, 29.97, 60])(
  'bursts repeat from the first one on, each in its frame: %d frames a second',
  (fps) => {
    for (const [burstAt, burstEvery] of [
      [0, 0.5],
      [0.3, 0.5],
      [1, 2],
      [0.25, 1 / 24],
    ] as const) {
      const s = schedule({ burst: 7, burstAt, burstEvery });
      const found: [number, number][] = [];
      for (let f = 0; f < 4 * fps; f++) {
        for (const { time, count } of s.between(f / fps, (f + 1) / fps)) {
          found.push([time, count]);
          expect(Math.floor(time * fps + 1e-6)).toBe(f);
        }
      }
      const last = Math.ceil((Math.ceil(4 * fps) / fps - burstAt) / burstEvery - 1e-6);
      expect(found.map(([, count]) => count)).toEqual(Array.from({ length: last }, () => 7));
      found.forEach(([time], k) => {
        expect(time).toBeCloseTo(burstAt + k * burstEvery, 6);
      });
    }
  },
);

test('what starts at 0 starts with the pre-roll; later times count from frame 0', () => {
  expect(schedule({ rate: 100 }, -2).bornBefore(0)).toBe(200);
  expect(schedule({ rate: 100, start: 1 }, -2).bornBefore(1.5)).toBe(50);
  expect(schedule({ burst: 9 }, -2).bornBefore(-1.9)).toBe(9);
});

test('when births come decides which of the other dials count', () => {
  const dials = { rate: 10, burst: 7, burstAt: 0.25, start: 0.5 };
  const born = (when: string): number => schedule({ ...dials, when }, 0, 4).bornBefore(2);
  expect(['steadily', 'bursts', 'both', 'once', 'oneByOne'].map(born)).toEqual([15, 7, 22, 4, 4]);
  expect(schedule({ ...dials, when: 'once' }, 0, 4).bornBefore(0.5)).toBe(0);
  expect(schedule({ ...dials, when: 'once', loop: 0.9 }, 0, 4).bornBefore(2.4)).toBe(12);
  expect(schedule({ ...dials, when: 'oneByOne' }, 0, 4).bornBefore(0.75)).toBe(3);
  expect(schedule({ ...dials, when: 'once' }).bornBefore(2)).toBe(0);
});

test('most alive at once is what the rate and the longest lifetime give', () => {
  const s = schedule({ rate: 300 });
  expect(mostAlive(s, { feed: 'spread', from: 1, to: 2 }, 0, 10, 1 / 30)).toBe(610);
  expect(mostAlive(schedule({ burst: 50, loop: 1 }), 2.5, 0, 10, 1 / 30)).toBe(150);
  expect(mostAlive(schedule({ rate: 100, end: 0.5 }), 10, 0, 10, 1 / 30)).toBe(50);
});

test('slots of an event are its ids modulo the capacity; too many keep the youngest', () => {
  const ids = (first: number, count: number, capacity: number): Map<number, number> => {
    const slots = new Map<number, number>();
    for (const r of slotRanges({ first, count, time: 0, every: 0 }, capacity)) {
      for (let slot = r.begin; slot < r.end; slot++) slots.set(slot, slot + r.idOffset);
    }
    return slots;
  };
  for (const [first, count, capacity] of [
    [0, 5, 8],
    [6, 5, 8],
    [100, 8, 8],
    [3, 20, 8],
  ] as const) {
    const slots = ids(first, count, capacity);
    expect(slots.size).toBe(Math.min(count, capacity));
    for (const [slot, id] of slots) expect(id % capacity).toBe(slot);
    expect(Math.max(...slots.values())).toBe(first + count - 1);
  }
});

test.each([
  [100, 16, 40],
  [100, 40, 16],
  [10, 16, 40],
  [1000, 12, 20],
])('with %d born, slots move from %d to %d by id', (born, from, to) => {
  const old = Array.from({ length: from }, () => -1);
  for (let id = Math.max(0, born - from); id < born; id++) old[id % from] = id;
  const fresh = Array.from({ length: to }, () => -1);
  for (const m of remap(born, from, to)) {
    for (let i = 0; i < m.count; i++) fresh[m.to + i] = old[m.from + i]!;
  }
  for (let id = born - Math.min(born, from, to); id < born; id++) expect(fresh[id % to]).toBe(id);
});
