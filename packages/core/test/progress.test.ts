import { isDeepStrictEqual } from 'node:util';
import { MADE } from '@vast-swarm/core/content';
import { strToU8, zipSync } from 'fflate';
import { made, madeType, secondsOf, unzip, type Mesh, type Sound } from '@vast-swarm/core/stock';
import { onProgress } from '../src/progress';
import { brushedFlow } from '../src/stock/places/brush';
import { fieldOf } from '../src/stock/places/distanceField';
import { matched } from '../src/stock/places/match';
import { triangleTree } from '../src/stock/places/triangleTree';

/** Long work says how far it is, and can be ended on its way without leaving half of it behind. */

afterEach(() => {
  onProgress(() => undefined);
});

/** What is said while something is done. */
function said(work: () => unknown): { what: string; part: number; quiet: number }[] {
  const heard: { what: string; part: number; quiet: number }[] = [];
  onProgress((what, part, quiet) => heard.push({ what, part, quiet }));
  work();
  return heard.filter(({ what }) => what !== '');
}

const strokes = (): Parameters<typeof brushedFlow>[0] =>
  Array.from({ length: 5 }, (_, k) => ({
    points: Array.from({ length: 600 }, (_, i) => 0.5 + 0.4 * Math.sin(i * 0.37 + k)),
    radius: 0.2,
    strength: 1,
  }));

/** A thing of its own, that nothing has been found of yet. */
const buoy = (): Mesh => ({ ...(made('buoy') as Mesh) });

/** A mesh of many triangles. */
function many(): Mesh {
  const { positions, triangles } = buoy();
  const times = Math.ceil(30_000 / triangles.length);
  return {
    type: 'mesh',
    positions,
    triangles: Uint32Array.from(
      { length: times * triangles.length },
      (_, i) => triangles[i % triangles.length]!,
    ),
  };
}

const WORK: [string, () => () => unknown][] = [
  [
    'strokes',
    () => {
      const own = strokes();
      return () => brushedFlow(own);
    },
  ],
  [
    'places that belong together',
    () => {
      const shapes = [buoy(), buoy()];
      return () => matched(shapes, 20_000);
    },
  ],
  [
    'the measures of a mesh',
    () => {
      const own = buoy();
      return () => fieldOf(own, 32);
    },
  ],
  [
    'the tree of a mesh',
    () => {
      const own = many();
      return () => triangleTree(own);
    },
  ],
];

test.each(WORK)('%s are told as they are made, forwards, and once', (_, begin) => {
  const work = begin();
  const heard = said(work);
  expect(heard.length).toBeGreaterThan(3);
  for (const { part } of heard) expect(part).toBeGreaterThanOrEqual(0);
  for (const { part } of heard) expect(part).toBeLessThanOrEqual(1);
  for (const what of new Set(heard.map((h) => h.what))) {
    const parts = heard.filter((h) => h.what === what).map((h) => h.part);
    expect(Math.max(...parts)).toBeGreaterThan(parts[0]!);
  }
  // What has been found is not found again.
  expect(said(work)).toEqual([]);
});

test.each(WORK)(
  '%s that were ended on their way come out the same when they are made again',
  (_, begin) => {
    const work = begin();
    const wanted = begin()();
    for (const after of [1, 2, 4]) {
      let left = after;
      onProgress((what) => {
        if (what !== '' && --left === 0) throw new Error('ended');
      });
      expect(work).toThrow('ended');
    }
    onProgress(() => undefined);
    expect(isDeepStrictEqual(work(), wanted)).toBe(true);
  },
);

test.each(MADE.filter((name) => madeType(name) === 'sound'))(
  '%s is told as it is made, in steps that a slow machine takes in time',
  (name) => {
    let steps = 0;
    onProgress(() => steps++);
    const sound = made(name) as Sound;
    expect(steps).toBeGreaterThan(secondsOf(sound) / 2);
  },
);

test('a zip tells each of its files before it is unpacked, with the time that it may take', () => {
  const files = { 'a.txt': strToU8('a'.repeat(30_000_000)), 'b.txt': strToU8('b'.repeat(10)) };
  const zip = zipSync(files, { level: 1 });
  const heard = said(() => unzip(zip));
  expect(heard.map((h) => h.what)).toEqual(['a.txt', 'b.txt']);
  expect(heard[0]!.part).toBe(0);
  expect(heard[1]!.part).toBeCloseTo(1, 3);
  expect(heard[0]!.quiet).toBeGreaterThan(0.5);
  expect(heard[1]!.quiet).toBeLessThan(0.001);
});
