import { cameraAt, Scene, type Draw } from '@vast-swarm/core/plan';
import { makePiece } from '@vast-swarm/core/piece';
import { strideOf, type DrawMode } from '@vast-swarm/core/kinds';
import { decode } from 'fast-png';
import { Arena } from '../src/arena';
import { Painter } from '../src/painter';
import { encodePng } from '@vast-swarm/core/formats';
import { Pool } from '../src/pool';
import { Rasteriser, type Planes } from '../src/rasteriser';

const [W, H] = [150, 70];

let pool: Pool;
let arena: Arena;
let rasteriser: Rasteriser;
let planes: Planes;

beforeAll(async () => {
  pool = await Pool.create(2);
  arena = new Arena(pool.memory, pool.pages);
  rasteriser = new Rasteriser(pool, arena);
  planes = rasteriser.planes('test', W, H);
});
afterAll(() => pool.close());

interface Disc {
  x: number;
  y: number;
  r: number;
  light: [number, number, number];
  a: number;
  depth: number;
}

function view(address: number, length: number): Float32Array {
  return new Float32Array(pool.memory.buffer, address, length);
}

function plane(c: number): Float32Array {
  return view(planes.at[c]!, planes.stride * H);
}

function draw(
  discs: readonly Disc[],
  mode: DrawMode,
  edge: number,
  ground = 0.25,
  samples = 1,
): void {
  for (let c = 0; c < 3; c++) plane(c).fill(ground);
  const columns: Record<string, (d: Disc) => number> = {
    sx: (d) => d.x,
    sy: (d) => d.y,
    sr: (d) => d.r,
    cr: (d) => d.light[0],
    cg: (d) => d.light[1],
    cb: (d) => d.light[2],
    ca: (d) => d.a,
    depth: (d) => d.depth,
  };
  const address = (name: string): number => arena.buffer(`d.${name}`, 4 * discs.length);
  for (const [name, get] of Object.entries(columns)) {
    view(address(name), discs.length).set(discs.map(get));
  }
  const shape = { shape: 'discs', id: 'd', mode, edge, soft: () => 0, outputs: [] } as const;
  const nearest = mode === 'opaque' ? arena.buffer('nearest', 4 * planes.stride * H) : 0;
  if (nearest) view(nearest, planes.stride * H).fill(1e9);
  const lamps = { ambient: [0, 0, 0] as [number, number, number], lamps: [] };
  const camera = cameraAt(new Scene(makePiece('Any')), 0);
  const canvas = { planes, nearest, solids: [], camera, lamps, time: 0 };
  const painter = new Painter(rasteriser);
  painter.paint(shape as unknown as Draw, address, discs.length, canvas);
  painter.drawSolids(canvas, samples);
}

/** The picture as the formulas have it, pixel by pixel, disc by disc. */
function reference(
  discs: readonly Disc[],
  mode: DrawMode,
  edge: number,
  ground = 0.25,
  [width, height] = [W, H],
): number[][] {
  const sorted = mode === 'normal' || mode === 'opaque';
  // Of equally near opaque things the first one is seen.
  if (mode === 'opaque') discs = [...discs].reverse();
  const order = sorted ? [...discs].sort((a, b) => b.depth - a.depth) : discs;
  const out = [0, 1, 2].map(() => new Array<number>(width * height).fill(ground));
  for (const { x, y, r, light, a } of order) {
    const hard = Math.min(edge, Math.max(1, 0.6 * r));
    for (let i = 0; i < width * height; i++) {
      const [px, py] = [(i % width) + 0.5, Math.floor(i / width) + 0.5];
      const inside = 1 - ((px - x) ** 2 + (py - y) ** 2) / r ** 2;
      if (inside <= 0) continue;
      const w = Math.min(1, inside * hard) ** 2;
      for (let c = 0; c < 3; c++) {
        const d = out[c]![i]!;
        if (mode === 'add') out[c]![i] = d + light[c]! * w;
        else if (mode === 'screen') out[c]![i] = d + Math.min(1, light[c]! * w) * (1 - d);
        else if (mode === 'normal') out[c]![i] = d * (1 - a * w) + light[c]! * w;
        else if (mode === 'multiply') out[c]![i] = d * (1 - a * w + light[c]! * w);
        else if (mode === 'lighten') out[c]![i] = Math.max(d, light[c]! * w);
        else if (w >= 0.5) out[c]![i] = light[c]!;
      }
    }
  }
  return out;
}

function scattered(count: number): Disc[] {
  const at = (i: number, k: number): number =>
    Math.abs(Math.sin(i * 12.9898 + k * 78.233) * 43758.5453) % 1;
  return Array.from({ length: count }, (_, i) => ({
    x: at(i, 0) * (W + 20) - 10,
    y: at(i, 1) * (H + 20) - 10,
    r: 1.4 + at(i, 2) ** 4 * 30,
    light: [at(i, 3), at(i, 4), at(i, 5)],
    a: at(i, 6),
    // Many equal distances, which must keep their order.
    depth: 1 + Math.floor(at(i, 7) * 40) / 4,
  }));
}

test.each([
  ['add', 1],
  ['add', 40],
  ['screen', 1],
  ['normal', 1],
  ['normal', 40],
  ['multiply', 1],
  ['lighten', 1],
  ['opaque', 1],
  ['opaque', 40],
] as const)('%s with edge %d is what its formula says, over tiles and edges', (mode, edge) => {
  const discs = scattered(400);
  draw(discs, mode, edge);
  const wanted = reference(discs, mode, edge);
  let worst = 0;
  for (let c = 0; c < 3; c++) {
    const got = plane(c);
    for (let i = 0; i < W * H; i++) {
      const value = got[Math.floor(i / W) * strideOf(W) + (i % W)]!;
      worst = Math.max(worst, Math.abs(value - wanted[c]![i]!) / Math.max(1, wanted[c]![i]!));
    }
  }
  expect(worst).toBeLessThan(2e-3);
});

test.each([2, 4])('opaque discs are the mean of %d × %d samples a pixel', (k) => {
  const discs = scattered(400);
  draw(discs, 'opaque', 40, 0.25, k);
  const finer = discs.map((d) => ({ ...d, x: d.x * k, y: d.y * k, r: d.r * k }));
  const wanted = reference(finer, 'opaque', 40, 0.25, [W * k, H * k]);
  for (let c = 0; c < 3; c++) {
    const got = plane(c);
    let off = 0;
    for (let i = 0; i < W * H; i++) {
      const [x, y] = [i % W, Math.floor(i / W)];
      let sum = 0;
      for (let j = 0; j < k * k; j++) {
        sum += wanted[c]![(y * k + Math.floor(j / k)) * W * k + x * k + (j % k)]!;
      }
      off += Number(Math.abs(got[y * strideOf(W) + x]! - sum / k ** 2) > 1e-4);
    }
    // A sample on a disc's very edge may go either way in single precision.
    expect(off).toBeLessThan(5);
  }
});

test('a soft disc gives the light of its integral, πr²/3, wherever it stands', () => {
  for (const [x, y, r] of [
    [75, 35, 12],
    [64.3, 32.1, 6.5],
    [20.5, 40.25, 2.5],
  ] as const) {
    draw([{ x, y, r, light: [1, 0, 0], a: 1, depth: 1 }], 'add', 1, 0);
    const sum = plane(0).reduce((s, v) => s + v, 0);
    expect(Math.abs(sum / ((Math.PI * r * r) / 3) - 1)).toBeLessThan(0.01);
  }
});

test('discs that are NaN, endless or outside draw nothing and harm nothing', () => {
  const odd = [NaN, Infinity, -Infinity, 1e30, -1e30].flatMap((v) => [
    { x: v, y: 10, r: 3, light: [1, 1, 1] as Disc['light'], a: 1, depth: 1 },
    { x: 10, y: v, r: 3, light: [1, 1, 1] as Disc['light'], a: 1, depth: 1 },
  ]);
  draw(odd, 'add', 1);
  expect(plane(0).every((v) => v === 0.25)).toBe(true);
});

test('bloom keeps the total of the light it spreads to 1 %', () => {
  for (let c = 0; c < 3; c++) plane(c).fill(0);
  const stride = strideOf(W);
  for (let y = 30; y < 40; y++) for (let x = 70; x < 80; x++) plane(1)[y * stride + x] = 2;
  const total = (): number => {
    let sum = 0;
    for (let y = 0; y < H; y++) for (let x = 0; x < W; x++) sum += plane(1)[y * stride + x]!;
    return sum;
  };
  const before = total();
  rasteriser.bloom(planes, { amount: 1, threshold: 0, radius: 0.1 });
  expect(Math.abs(total() / (2 * before) - 1)).toBeLessThan(0.01);
  // It reaches out, and falls with distance.
  const at = (x: number): number => plane(1)[35 * stride + x]!;
  expect(at(84)).toBeGreaterThan(at(92));
  expect(at(92)).toBeGreaterThan(0);
});

test('shrinking is the mean of the pixels', () => {
  const small = rasteriser.planes('small', W / 2, H / 2);
  for (let i = 0; i < planes.stride * H; i++) plane(2)[i] = (i * 7919) % 13;
  rasteriser.shrink(planes, small, 2);
  const got = view(small.at[2], small.stride * small.height);
  const wanted = (x: number, y: number): number =>
    [0, 1]
      .flatMap((j) => [0, 1].map((i) => plane(2)[(2 * y + j) * planes.stride + 2 * x + i]!))
      .reduce((a, b) => a + b) / 4;
  expect(got[10 * small.stride + 33]).toBeCloseTo(wanted(33, 10));
});

test('a PNG holds the pixels it was given', async () => {
  const pixels = Uint8ClampedArray.from({ length: 12 * 4 }, (_, i) => (i * 37) % 256);
  const { width, height, channels, data } = decode(
    await encodePng({ width: 4, height: 3, pixels }),
  );
  expect([width, height, channels]).toEqual([4, 3, 3]);
  expect([...data]).toEqual([...pixels].filter((_, i) => i % 4 < 3));
});
