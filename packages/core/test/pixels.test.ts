import { Graph, interpret } from '@vast-swarm/kernel';
import { bloomLevels, fromLinear } from '../src';
import { srgb } from '../src/plan/finish/encode';

test('the fitted transfer curve stays within 0.15 of an 8-bit step', () => {
  const g = new Graph();
  g.store('out', srgb(g.load('in', g.lane())));
  const n = 4001;
  const input = Float32Array.from({ length: n }, (_, i) => (i / (n - 1)) ** 2);
  const out = new Float32Array(n);
  interpret(g, 0, n, { in: input, out }, {});
  const worst = Math.max(...out.map((v, i) => Math.abs(v - fromLinear(input[i]!)) * 255));
  expect(worst).toBeLessThan(0.15);
});

test('the parts of bloom add up to 1 at any size, and levels halve', () => {
  for (const [w, h, r] of [
    [960, 540, 0.12],
    [64, 36, 0.5],
    [16, 16, 0.002],
    [7680, 4320, 0.3],
  ] as const) {
    const levels = bloomLevels(w, h, r);
    expect(levels.reduce((s, l) => s + l.weight, 0)).toBeCloseTo(1);
    expect(levels[0]).toMatchObject({ width: Math.ceil(w / 2), height: Math.ceil(h / 2) });
  }
});
