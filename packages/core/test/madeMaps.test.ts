import { kindOf, type DialValues } from '@vast-swarm/core/kinds';
import { makePart } from '@vast-swarm/core/piece';
import type { MovingPicture, Picture } from '@vast-swarm/core/stock';
import { latticeRandom, nearestTwo, noisePlane, wanderingPoints } from '../src/stock/clip/noise';

/** Made maps against what they say, and against slower ways to the same. */

function mapOf(kind: string, dials: DialValues, seed = 3): MovingPicture {
  const all = { ...makePart('pictures', kind, []).dials, ...dials };
  return kindOf('pictures', kind).moving(all, { rate: 30, seed, stock: () => undefined })!;
}

/** Linear light of a grey pixel. */
function greyAt({ width, pixels }: Picture, x: number, y: number): number {
  const c = pixels[4 * (y * width + x)]! / 255;
  return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
}

/** Gradient noise as the paper writes it: eight corners, one after the other. */
function plainNoise(x: number, y: number, z: number, seed: number): number {
  const fade = (t: number): number => t ** 3 * (t * (t * 6 - 15) + 10);
  const edges: [number, number, number][] = [];
  for (const at of [0, 1, 2]) {
    for (const k of [0, 1, 2, 3]) {
      const pair = [k & 1 ? -1 : 1, k & 2 ? -1 : 1];
      const edge: [number, number, number] = [0, 0, 0];
      edge[at] = pair[0]!;
      edge[(at + 1) % 3] = pair[1]!;
      edges.push(edge);
    }
  }
  const [ix, iy, iz] = [x, y, z].map(Math.floor) as [number, number, number];
  let sum = 0;
  for (let corner = 0; corner < 8; corner++) {
    const off = [corner & 1, (corner >> 1) & 1, (corner >> 2) & 1] as [number, number, number];
    const edge =
      edges[Math.floor(latticeRandom(ix + off[0], iy + off[1], iz + off[2], seed) * 12)]!;
    const way = [x - ix - off[0], y - iy - off[1], z - iz - off[2]];
    const share = [x - ix, y - iy, z - iz].reduce(
      (all, t, k) => all * (off[k] ? fade(t) : 1 - fade(t)),
      1,
    );
    sum += share * way.reduce((all, w, k) => all + w * edge[k]!, 0);
  }
  return 0.5 + 0.5 * sum;
}

test('noise on a plane is the noise of the paper', () => {
  for (const z of [0, 0.3, -2.75, 8.5]) {
    const noise = noisePlane(z, 41);
    for (let i = 0; i < 300; i++) {
      const [x, y] = [-7 + i * 0.137, 4 - i * 0.091];
      expect(Math.abs(noise(x, y) - plainNoise(x, y, z, 41))).toBeLessThan(1e-12);
    }
  }
});

test('the nearest two of wandering points are those of all of them', () => {
  const points = wanderingPoints(1.3, 9);
  const distances = nearestTwo(points);
  for (let i = 0; i < 200; i++) {
    const [x, y] = [-3 + i * 0.113, 2 + i * 0.071];
    const all: number[] = [];
    for (let k = 0; k < 49; k++) {
      const [px, py] = points(Math.floor(x) - 3 + (k % 7), Math.floor(y) - 3 + Math.floor(k / 7));
      all.push(Math.hypot(px - x, py - y));
    }
    all.sort((a, b) => a - b);
    const [near, second] = distances(x, y);
    expect(near).toBeCloseTo(all[0]!, 9);
    // The second may stand two cells away; then what is found is no nearer than it is.
    expect(second).toBeGreaterThanOrEqual(all[1]! - 1e-9);
  }
});

test('noise is grey in the mean, and as wide as its contrast', () => {
  const spread = (contrast: number): [number, number] => {
    const picture = mapOf('noise', { contrast, scale: 12, detail: 128 }).at(5) as Picture;
    const values = Array.from({ length: picture.width * picture.height }, (_, i) =>
      greyAt(picture, i % picture.width, Math.floor(i / picture.width)),
    );
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    return [mean, Math.sqrt(values.reduce((a, v) => a + (v - mean) ** 2, 0) / values.length)];
  };
  const [mean, one] = spread(0.5);
  expect(mean).toBeCloseTo(0.5, 1);
  expect(spread(1)[1] / one).toBeCloseTo(2, 1);
});

test('rings run outward, squares to the right, and a gradient from end to end', () => {
  const rings = mapOf('rings', { rings: 2, thick: 1, change: 1, shape: 1, detail: 64 });
  // Brightest a quarter of a height from the middle; half a second later half a ring on.
  const at = (frame: number, far: number): number =>
    greyAt(rings.at(rings.stateAt(frame)) as Picture, 32 + far, 32);
  expect(at(0, 16)).toBeGreaterThan(0.9);
  expect(at(15, 16)).toBeLessThan(0.1);
  expect(at(15, 0)).toBeGreaterThan(0.9);

  const checks = mapOf('checks', { count: 4, shape: 1, detail: 64, change: 1 });
  const square = (frame: number, x: number, y: number): number =>
    greyAt(checks.at(checks.stateAt(frame)) as Picture, x, y);
  expect([square(0, 5, 5), square(0, 20, 5), square(0, 5, 20), square(0, 20, 20)]).toEqual([
    0, 1, 1, 0,
  ]);
  // After a second they have gone one square on.
  expect([square(30, 5, 5), square(30, 20, 5)]).toEqual([1, 0]);

  const gradient = mapOf('gradient', { shape: 2, detail: 64 }).at(0) as Picture;
  for (const x of [0, 20, 40, 63]) expect(greyAt(gradient, x, 9)).toBeCloseTo((x + 0.5) / 64, 2);
  const down = mapOf('gradient', { across: 0, down: -1, shape: 2, detail: 64 }).at(0) as Picture;
  for (const y of [0, 15, 31]) expect(greyAt(down, 9, y)).toBeCloseTo(1 - (y + 0.5) / 32, 2);
});

test('between its two colours a map goes evenly in light', () => {
  const dials = { dark: '#204060', bright: '#ffe0a0', shape: 2, detail: 128 };
  const { width, pixels } = mapOf('gradient', dials).at(0) as Picture;
  const light = (c: number): number => ((c / 255 + 0.055) / 1.055) ** 2.4;
  [
    [0x20, 0xff],
    [0x40, 0xe0],
    [0x60, 0xa0],
  ].forEach(([dark, bright], k) => {
    const middle = light(pixels[4 * (width / 2) + k]!);
    const wanted = (light(dark!) + light(bright!)) / 2;
    expect(Math.abs(middle / wanted - 1)).toBeLessThan(0.03);
  });
});

test('a map has the shape and the detail that it says, stands where nothing changes, and differs by the seed', () => {
  for (const [shape, width, height] of [
    [2, 64, 32],
    [0.5, 32, 64],
    [1, 64, 64],
  ] as const) {
    const map = mapOf('cells', { shape, detail: 64 });
    expect([map.width, map.height]).toEqual([width, height]);
    expect((map.at(0) as Picture).pixels).toHaveLength(4 * width * height);
  }
  const still = mapOf('noise', { change: 0 });
  expect([still.stateAt(0), still.stateAt(500)]).toEqual([0, 0]);
  const [a, b] = [3, 4].map(
    (seed) => (mapOf('noise', { detail: 32 }, seed).at(0) as Picture).pixels,
  );
  expect(a).not.toEqual(b);
});
