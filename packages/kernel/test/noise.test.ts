import { curlNoise, Graph, noise, random, randomKey, Vec3, vectorNoise } from '../src';
import { generator, runWasm } from './harness';

const COUNT = 20000;

type Field = 'curl' | 'vector' | 'noise';

/** Samples a field at the points; gives its parts by name. */
function sample(field: Field, points: number[][], octaves = 1, angle = 0.7): Float32Array[] {
  const g = new Graph();
  const at = (b: string): ReturnType<Graph['load']> => g.load(b, g.lane());
  const p = new Vec3(at('x'), at('y'), at('z'));
  const phase = { cos: g.float(Math.cos(angle)), sin: g.float(Math.sin(angle)) };
  const sum = { octaves: g.uniform('octaves', 'i32'), persistence: g.float(0.5) };
  const seed = g.int(91);
  if (field === 'noise') {
    const n = noise(p, seed, phase);
    [n.value, ...n.gradient.parts].forEach((e, i) => g.store(`o${String(i)}`, e));
  } else {
    const v = (field === 'curl' ? curlNoise : vectorNoise)(p, seed, phase, sum);
    v.parts.forEach((e, i) => g.store(`o${String(i)}`, e));
  }
  const padded = Math.ceil(points.length / 4) * 4;
  const memory: Record<string, Float32Array> = {};
  for (const slot of g.buffers) memory[slot.name] = new Float32Array(padded);
  points.forEach((q, i) => q.forEach((c, k) => (memory['xyz'[k]!]![i] = c)));
  const out = runWasm(g, padded, memory, { octaves });
  return [0, 1, 2, 3].map((i) => (out[`o${String(i)}`] ?? []) as Float32Array);
}

const next = generator(17);
const scattered = Array.from({ length: COUNT }, () => [0, 1, 2].map(() => (next() - 0.5) * 60));

const mean = (v: ArrayLike<number>): number => Array.from(v).reduce((a, b) => a + b, 0) / v.length;

test('noise has mean 0, stays within -1.5 to 1.5, and its gradient matches differences', () => {
  const [value] = sample('noise', scattered);
  expect(Math.abs(mean(value!))).toBeLessThan(0.01);
  expect(Math.max(...value!.map(Math.abs))).toBeLessThan(1.5);
  const h = 1 / 256;
  const few = scattered.slice(0, 400);
  const exact = sample('noise', few);
  for (let axis = 0; axis < 3; axis++) {
    const move = (d: number): number[][] =>
      few.map((q) => q.map((c, k) => (k === axis ? c + d : c)));
    const [ahead] = sample('noise', move(h));
    const [behind] = sample('noise', move(-h));
    few.forEach((_, i) => {
      const slope = (ahead![i]! - behind![i]!) / (2 * h);
      expect(Math.abs(slope - exact[1 + axis]![i]!)).toBeLessThan(0.005);
    });
  }
});

test('curl noise: divergence at least 100 times smaller than the gradient, speed about 1', () => {
  const few = scattered.slice(0, 2000);
  const h = 1 / 64;
  let divergence = 0;
  let gradient = 0;
  for (let axis = 0; axis < 3; axis++) {
    const move = (d: number): number[][] =>
      few.map((q) => q.map((c, k) => (k === axis ? c + d : c)));
    const ahead = sample('curl', move(h));
    const behind = sample('curl', move(-h));
    const far = sample('curl', move(2 * h));
    const back = sample('curl', move(-2 * h));
    few.forEach((_, i) => {
      for (let part = 0; part < 3; part++) {
        // Fourth-order central difference.
        const d =
          (8 * (ahead[part]![i]! - behind[part]![i]!) - (far[part]![i]! - back[part]![i]!)) /
          (12 * h);
        gradient += d * d;
        if (part === axis) sums[i] = (sums[i] ?? 0) + d;
      }
    });
  }
  for (const s of sums) divergence += s * s;
  expect(Math.sqrt(gradient / divergence)).toBeGreaterThan(100);

  const [x, y, z] = sample('curl', scattered);
  const square = mean(x!.map((_, i) => x![i]! ** 2 + y![i]! ** 2 + z![i]! ** 2));
  expect(Math.sqrt(square)).toBeGreaterThan(0.95);
  expect(Math.sqrt(square)).toBeLessThan(1.05);
  for (const part of [x!, y!, z!]) expect(Math.abs(mean(part))).toBeLessThan(0.02);
});
const sums: number[] = [];

test('octaves add detail and change the field; its phase turns it', () => {
  const few = scattered.slice(0, 64);
  expect(sample('curl', few, 3)[0]).not.toEqual(sample('curl', few, 1)[0]);
  expect(sample('vector', few, 2, 0.1)[0]).not.toEqual(sample('vector', few, 2, 0.2)[0]);
});

test('random numbers are even, and independent between ids and purposes', () => {
  const g = new Graph();
  const key = (purpose: string): ReturnType<Graph['int']> => g.int(randomKey(purpose, 7));
  g.store('a', random(g.lane(), key('size')));
  g.store('b', random(g.lane(), key('speed')));
  g.store('c', random(g.lane().add(1), key('size')));
  const n = 65536;
  const empty = { a: new Float32Array(n), b: new Float32Array(n), c: new Float32Array(n) };
  const { a, b, c } = runWasm(g, n, empty, {}) as Record<'a' | 'b' | 'c', Float32Array>;
  const bins = new Array<number>(64).fill(0);
  for (const v of a) bins[Math.floor(v * 64)]!++;
  const chi = bins.reduce((s, count) => s + (count - n / 64) ** 2 / (n / 64), 0);
  // 63 degrees of freedom: 0.999 quantile 103.4.
  expect(chi).toBeLessThan(103.4);
  const correlation = (p: Float32Array, q: Float32Array): number =>
    12 * mean(p.map((v, i) => (v - 0.5) * (q[i]! - 0.5)));
  expect(Math.abs(correlation(a, b))).toBeLessThan(0.02);
  expect(Math.abs(correlation(a, c))).toBeLessThan(0.02);
});

test('the root mean square of one octave of vector noise is 1', () => {
  const parts = sample('vector', scattered).slice(0, 3);
  const square = parts.reduce((sum, part) => sum + mean(part.map((v) => v * v)), 0);
  expect(Math.abs(Math.sqrt(square) - 1)).toBeLessThan(0.01);
});
