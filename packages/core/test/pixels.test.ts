import { Graph, interpret } from '@vast-swarm/kernel';
import { bloomLevels } from '@vast-swarm/core/plan';
import { fromLinear } from '@vast-swarm/core/feeds';
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

test('the reach of bloom goes smoothly with its radius and is the same part of a frame of any height', () => {
  /** Over how many halvings light is spread on average, and over how many if the frame had 1080 lines. */
  const deep = (height: number, radius: number): number =>
    bloomLevels((height * 16) / 9, height, radius).reduce((sum, l, i) => sum + l.weight * i, 0);
  const radii = Array.from({ length: 200 }, (_, i) => 0.1 * 1.01 ** i);
  const deeper = radii.map((r, i) => (i ? deep(1080, r) - deep(1080, radii[i - 1]!) : 0)).slice(1);
  // A radius 1.01 times as large reaches log2(1.01) of a level deeper, until the frame ends.
  const room = deeper.slice(0, 60);
  for (const step of room) expect(step).toBeCloseTo(Math.log2(1.01), 6);
  for (const step of deeper) expect(step).toBeGreaterThanOrEqual(-1e-9);
  for (const height of [540, 700, 1440, 2160]) {
    const more = Math.log2(height / 1080);
    expect(deep(height, 0.3) - deep(1080, 0.3)).toBeCloseTo(more, 6);
  }
});
