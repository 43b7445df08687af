import { Graph, Vec3 } from '../src';
import { generator, runWasm } from './harness';

const COUNT = 2000;

test('the product of two vectors is square to both, as long as their parallelogram, and turns to the right', () => {
  const next = generator(9);
  const names = ['ax', 'ay', 'az', 'bx', 'by', 'bz'];
  const memory = Object.fromEntries(
    names.map((n) => [n, Float32Array.from({ length: COUNT }, () => 4 * next() - 2)]),
  );
  const g = new Graph();
  const [ax, ay, az, bx, by, bz] = names.map((n) => g.load(n, g.lane()));
  const made = new Vec3(ax!, ay!, az!).cross(new Vec3(bx!, by!, bz!));
  (['x', 'y', 'z'] as const).forEach((axis) => {
    g.store(axis, made[axis]);
  });
  const out = {
    x: new Float32Array(COUNT),
    y: new Float32Array(COUNT),
    z: new Float32Array(COUNT),
  };
  const got = runWasm(g, COUNT, { ...memory, ...out }, {});
  const at = (name: string, i: number): number => got[name]![i]!;
  let [askew, off, left] = [0, 0, 0];
  for (let i = 0; i < COUNT; i++) {
    const [a, b, c] = ['ax ay az', 'bx by bz', 'x y z'].map((v) =>
      v.split(' ').map((n) => at(n, i)),
    ) as [number[], number[], number[]];
    const dot = (u: number[], v: number[]): number => u.reduce((s, w, k) => s + w * v[k]!, 0);
    const area = Math.sqrt(dot(a, a) * dot(b, b) - dot(a, b) ** 2);
    askew = Math.max(askew, Math.abs(dot(a, c)), Math.abs(dot(b, c)));
    off = Math.max(off, Math.abs(Math.sqrt(dot(c, c)) - area));
    // The same way as in double precision, and not the opposite one.
    const turned = dot(
      [0, 1, 2].map((k) => a[(k + 1) % 3]! * b[(k + 2) % 3]! - a[(k + 2) % 3]! * b[(k + 1) % 3]!),
      c,
    );
    if (turned < 0) left += 1;
  }
  expect(askew).toBeLessThan(1e-4);
  expect(off).toBeLessThan(1e-4);
  expect(left).toBe(0);
});
