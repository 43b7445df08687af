import {
  addressed,
  levelsOf,
  makePanel,
  makeWall,
  parseWall,
  pixelsOf,
  universesOf,
  WallSampler,
  wallText,
  wattsOf,
  type Panel,
} from '@vast-swarm/core/show';
import { cornersOf } from '../src/show/wall';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { toLinear } from '@vast-swarm/core/feeds';

/** A picture of noise, the same each time. */
function noise(width: number, height: number): Uint8Array {
  let state = 12345;
  return Uint8Array.from({ length: 4 * width * height }, () => {
    state = (state * 1103515245 + 12345) % 2147483648;
    return (state >> 16) & 255;
  });
}

/** Points on a side of a pixel that are looked at by hand. */
const POINTS = 96;

/** The mean light of a pixel of a panel, of many points in it, one by one; outside is dark. */
function byHand(
  picture: Uint8Array,
  [width, height]: [number, number],
  [across, down]: [number, number],
  corners: [number, number][],
): number[] {
  const [a, b, , d] = corners;
  const sum = [0, 0, 0];
  for (let i = 0; i < POINTS; i++) {
    for (let j = 0; j < POINTS; j++) {
      const [u, v] = [(i + 0.5) / POINTS, (j + 0.5) / POINTS];
      const x = Math.floor((a![0] + u * (b![0] - a![0]) + v * (d![0] - a![0])) * across);
      const y = Math.floor((a![1] + u * (b![1] - a![1]) + v * (d![1] - a![1])) * down);
      if (x < 0 || y < 0 || x >= width || y >= height) continue;
      for (let c = 0; c < 3; c++) sum[c]! += toLinear(picture[4 * (y * width + x) + c]! / 255);
    }
  }
  return sum.map((s) => s / POINTS ** 2);
}

test.each([
  ['upright, larger than the picture’s pixels', { pitch: 130 }],
  ['smaller than those', { pitch: 11, columns: 6 }],
  ['turned by 30 degrees', { turn: 30 }],
  ['turned by -47.3, over an edge', { turn: -47.3, x: 0.1, y: 0.15 }],
  ['upside down', { turn: 180, x: 1.31 }],
  ['turned by 90, beside the picture', { turn: 90, x: 2.2 }],
  ['all outside', { x: 30 }],
])('pixels %s have the mean light of what they cover', (_, parts) => {
  const panel = makePanel('a', { x: 1, y: 0.6, columns: 5, rows: 4, pitch: 83, ...parts });
  // Wider than it is high, otherwise than the picture: what is covered is stretched.
  const wall = { ...makeWall([panel]), width: 2, height: 1.3 };
  const size: [number, number] = [64, 36];
  const picture = noise(...size);
  const light = new WallSampler(wall, ...size).light(picture);
  const scale: [number, number] = [size[0] / wall.width, size[1] / wall.height];
  expect(light.length).toBe(3 * pixelsOf(wall));
  addressed(panel).forEach(([column, row], i) => {
    const wanted = byHand(picture, size, scale, cornersOf(panel, column, row));
    for (let c = 0; c < 3; c++) {
      expect(Math.abs(light[3 * i + c]! - wanted[c]!)).toBeLessThan(0.012);
    }
  });
});

test('the parts of a white picture are all of it: light is neither lost nor made', () => {
  const white = new Uint8Array(4 * 640 * 360).fill(255);
  const { wall } = DEMO_SHOW.show;
  const light = new WallSampler(wall!, 640, 360).light(white);
  expect(Math.min(...light)).toBeCloseTo(1, 4);
  expect(Math.max(...light)).toBeCloseTo(1, 4);
});

test.each<[Panel['order'], string]>([
  [{ along: 'rows', from: 'topLeft', snake: false }, '00 10 20 01 11 21'],
  [{ along: 'rows', from: 'topLeft', snake: true }, '00 10 20 21 11 01'],
  [{ along: 'rows', from: 'topRight', snake: false }, '20 10 00 21 11 01'],
  [{ along: 'rows', from: 'bottomLeft', snake: true }, '01 11 21 20 10 00'],
  [{ along: 'columns', from: 'topLeft', snake: false }, '00 01 10 11 20 21'],
  [{ along: 'columns', from: 'topLeft', snake: true }, '00 01 11 10 20 21'],
  [{ along: 'columns', from: 'bottomRight', snake: false }, '21 20 11 10 01 00'],
])('pixels are addressed %j', (order, wanted) => {
  const panel = makePanel('a', { columns: 3, rows: 2, order });
  expect(
    addressed(panel)
      .map((p) => p.join(''))
      .join(' '),
  ).toBe(wanted);
});

test('universes hold whole pixels, and each panel begins with one of its own', () => {
  const panels = [
    makePanel('a', { columns: 17, rows: 10 }),
    makePanel('b', { columns: 171, rows: 1 }),
    makePanel('c', { columns: 2, rows: 2 }),
  ];
  expect(universesOf({ panels, universe: 7 })).toEqual([
    { universe: 7, from: 0, until: 170 },
    { universe: 8, from: 170, until: 340 },
    { universe: 9, from: 340, until: 341 },
    { universe: 10, from: 341, until: 345 },
  ]);
});

test('levels make the light that is wanted, no brighter than the wall may be, nor above its limit of power', () => {
  const wall = makeWall([makePanel('a', { columns: 20, rows: 20 })]);
  const light = Float32Array.from({ length: 1200 }, (_, i) => i / 1199);
  for (const gamma of [1, 1.8, 2.2, 2.8]) {
    const levels = levelsOf({ ...wall, gamma }, light);
    levels.forEach((level, i) => {
      // To half a level and a little, whatever panels make of it.
      expect(Math.abs(level - 255 * light[i]! ** (1 / gamma))).toBeLessThanOrEqual(0.52);
    });
  }
  const [less] = levelsOf({ ...wall, gamma: 1, level: 0.4 }, Float32Array.of(1));
  expect(less).toBe(102);
  // 400 pixels of half of the light on the mean, 0.3 W each.
  expect(wattsOf(wall, light)).toBeCloseTo(60, 3);
  for (const limit of [5, 20, 59]) {
    const levels = levelsOf({ ...wall, limit }, light);
    const made = Float32Array.from(levels, (v) => (v / 255) ** wall.gamma);
    expect(wattsOf(wall, made)).toBeLessThanOrEqual(limit);
    expect(wattsOf(wall, made)).toBeGreaterThan(0.9 * limit);
  }
  expect(levelsOf({ ...wall, limit: 61 }, light)).toEqual(levelsOf(wall, light));
  expect(levelsOf(wall, Float32Array.of(-1, 2, NaN))).toEqual(Uint8Array.of(0, 255, 0));
});

test('a pixel map is the same out of its file, and what is wrong in one is said', () => {
  const { wall } = DEMO_SHOW.show;
  expect(parseWall(wallText(wall!))).toEqual(wall);
  const large = makeWall([makePanel('a', { columns: 512, rows: 512 })]);
  expect(() => parseWall(wallText(large))).toThrow(
    /panels: there are 262144 pixels; 87040 are the most/,
  );
  const twice = makeWall([makePanel('a'), makePanel('a')]);
  expect(() => parseWall(wallText(twice))).toThrow(/two panels have the same id/);
  const far = { ...makeWall([makePanel('a'), makePanel('b')]), universe: 63_999 };
  expect(() => parseWall(wallText(far))).toThrow(/63999 is the last/);
  expect(() => parseWall('{"format": "vast-swarm show"}')).toThrow(/should be 'vast-swarm wall'/);
});
