import { plainFlow } from '../../../tests/support/plainFlow';
import { flowBetween, greyOf, type Grid } from '../src/stock/clip/opticalFlow';

/** Motion that is known, of a picture that is known everywhere: sums of waves. */

const [WIDTH, HEIGHT] = [320, 180];

/** Waves in cells, of all directions, from coarse to fine. */
const WAVES = Array.from({ length: 24 }, (_, k) => {
  const turns = (2 * Math.PI) / (40 * 0.9 ** k);
  return { x: turns * Math.cos(2.4 * k), y: turns * Math.sin(2.4 * k), phase: 1.7 * k };
});

/** A texture of all of them, at a place in cells. */
function texture(x: number, y: number): number {
  let sum = 0;
  for (const wave of WAVES) sum += Math.sin(x * wave.x + y * wave.y + wave.phase);
  return 0.5 + 0.06 * sum;
}

/** Where what is at a place now was before. */
type Motion = (x: number, y: number) => [number, number];

function seen(was: Motion | null): Grid {
  const values = Float32Array.from({ length: WIDTH * HEIGHT }, (_, at) => {
    const [x, y] = [at % WIDTH, Math.floor(at / WIDTH)];
    return texture(...(was ? was(x, y) : ([x, y] as [number, number])));
  });
  return { width: WIDTH, height: HEIGHT, values };
}

/** The mean distance between what is found and what is so, in cells. */
function meanError(was: Motion): number {
  const flow = flowBetween(seen(null), seen(was));
  let sum = 0;
  for (let at = 0; at < flow.x.length; at++) {
    const [x, y] = [at % WIDTH, Math.floor(at / WIDTH)];
    const [bx, by] = was(x, y);
    sum += Math.hypot(flow.x[at]! - (x - bx), flow.y[at]! - (y - by));
  }
  return sum / flow.x.length;
}

test.each([
  [0.5, 30, 0.25],
  [1, 200, 0.25],
  [2, 75, 0.25],
  [4, 310, 0.25],
  [6, 145, 0.25],
  [9, 20, 0.25],
  [12, 255, 0.25],
])('a shift of %d cells towards %d degrees', (far, degrees, most) => {
  const [dx, dy] = [Math.cos, Math.sin].map((f) => far * f((degrees * Math.PI) / 180)) as [
    number,
    number,
  ];
  expect(meanError((x, y) => [x - dx, y - dy])).toBeLessThan(most);
});

test('a turn and a zoom about the middle', () => {
  const [c, s] = [Math.cos(0.05), Math.sin(0.05)];
  const about =
    (a: number, b: number): Motion =>
    (x, y) => {
      const [u, v] = [x - WIDTH / 2, y - HEIGHT / 2];
      return [WIDTH / 2 + a * u + b * v, HEIGHT / 2 - b * u + a * v];
    };
  expect(meanError(about(c, s))).toBeLessThan(0.25);
  expect(meanError(about(1 / 1.06, 0))).toBeLessThan(0.25);
});

/** Noise of the test's own. */
function noisy(count: number, seed: number): Float32Array {
  let state = seed;
  return Float32Array.from(
    { length: count },
    () => (state = (state * 48271) % 2147483647) / 2147483647,
  );
}

test.each([
  [320, 180],
  [57, 31],
  [24, 400],
  [2, 2],
  [1, 90],
])('%d by %d is as plain loops find it, whatever was looked at before', (width, height) => {
  const place = (dx: number): Grid => {
    const values = Float32Array.from({ length: width * height }, (_, at) =>
      texture((at % width) - dx, Math.floor(at / width) + 0.6 * dx),
    );
    // Noise differs from one to the other: windows that fit nothing are found alike too.
    noisy(width * height, 7 + dx).forEach((v, i) => (values[i]! += 0.02 * v));
    return { width, height, values };
  };
  const pixels = new Uint8Array(4 * 640 * 480).fill(255);
  greyOf({ type: 'picture', width: 640, height: 480, pixels }, 100);
  const [before, after] = [place(0), place(2)];
  const [found, wanted] = [flowBetween(before, after), plainFlow(before, after)];
  for (const axis of ['x', 'y'] as const) {
    const off = found[axis].map((v, i) => Math.abs(v - wanted[axis][i]!));
    expect(Math.max(...off)).toBeLessThan(1e-3);
  }
});

test.each([
  [640, 480, 100],
  [37, 91, 24],
  [5, 3, 480],
])('grey of %d by %d pixels is the mean over each of its cells', (width, height, detail) => {
  const pixels = Uint8Array.from(noisy(4 * width * height, 3), (v) => 255 * v);
  const grey = greyOf({ type: 'picture', width, height, pixels }, detail);
  const [sums, counts] = [
    new Float64Array(grey.values.length),
    new Float64Array(grey.values.length),
  ];
  for (let at = 0; at < width * height; at++) {
    const [x, y] = [at % width, Math.floor(at / width)];
    const column = Math.floor((x * grey.width) / width);
    const cell = Math.floor((y * grey.height) / height) * grey.width + column;
    const [r, g, b] = pixels.subarray(4 * at, 4 * at + 3);
    sums[cell]! += (0.299 * r! + 0.587 * g! + 0.114 * b!) / 255;
    counts[cell]! += 1;
  }
  // The weights are whole 256ths.
  const off = sums.map((sum, i) => Math.abs(sum / counts[i]! - grey.values[i]!));
  expect(Math.max(...off)).toBeLessThan(4e-3);
});

test('nothing moves where nothing does, and where there is nothing to see', () => {
  const { x, y } = flowBetween(seen(null), seen(null));
  expect([...x, ...y].every((v) => v === 0)).toBe(true);
  const flat: Grid = { width: 40, height: 30, values: new Float32Array(1200).fill(0.4) };
  const none = flowBetween(flat, { ...flat, values: flat.values.map((v) => v + 0.1) });
  expect([...none.x, ...none.y].every((v) => v === 0)).toBe(true);
});

test.each([
  [1, 1],
  [3, 200],
  [23, 23],
])('a picture of %d by %d', (width, height) => {
  const pixels = new Uint8Array(4 * width * height).fill(90);
  const grey = greyOf({ type: 'picture', width, height, pixels }, 320);
  expect([grey.width, grey.height]).toEqual([width, height]);
  expect(flowBetween(grey, grey).x.every((v) => v === 0)).toBe(true);
});
