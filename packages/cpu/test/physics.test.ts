import type { DialValues } from '@vast-swarm/core/kinds';
import type { Piece } from '@vast-swarm/core/piece';
import type { Vector } from '@vast-swarm/core/feeds';
import { CpuEngine } from '../src';
import { birthplaces as bornAt, chiSquare, force, near, run as flown, thrown } from './flight';

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 1 });
});
afterAll(() => engine.close());

const run = (piece: Piece, seconds: number) => flown(engine, piece, seconds);
const birthplaces = (kind: string, dials: DialValues) => bornAt(engine, kind, dials);

test.each([24, 30, 60])('ballistic flight to 1e-4 after 5 s at %d frames a second', (rate) => {
  const { p, v } = run(thrown(3, [force('gravity', {})], [0, 0, 0], rate), 5);
  near(p[0], 15, 1e-4);
  near(p[1], -0.5 * 9.81 * 25, 1e-4);
  near(v[1], -9.81 * 5, 1e-4);
});

test.each([0.01, 0.8, 5])('drag of %d /s to 1e-4 after 5 s', (k) => {
  const { p, v } = run(thrown(10, [force('drag', { amount: k })]), 5);
  near(v[0], 10 * Math.exp(-5 * k), 2e-4);
  near(p[0], (10 / k) * (1 - Math.exp(-5 * k)), 1e-4);
});

test('gravity against drag reaches the terminal speed g / k', () => {
  const { v } = run(thrown(0, [force('gravity', {}), force('drag', { amount: 2 })]), 8);
  near(v[1], -9.81 / 2, 1e-4);
});

test('wind takes a particle along to its own speed', () => {
  const wind = force('wind', { speed: 4, direction: [0, 0, 1], grip: 0.5 });
  const { v, p } = run(thrown(0, [wind]), 3);
  near(v[2], 4 * (1 - Math.exp(-1.5)), 1e-4);
  near(p[2], 4 * (3 - (1 - Math.exp(-1.5)) / 0.5), 1e-3);
});

test('a pure vortex keeps the radius to 1 % over ten turns, and turns as fast as it says', () => {
  const vortex = force('vortex', { spin: 360, falloff: 0, radius: 5 });
  // With falloff 0 the spin is felt everywhere: a turn a second.
  const { p } = run(thrown(0, [vortex], [2, 0, 0]), 10 - 1 / 60);
  near(Math.hypot(p[0], p[2]), 2, 0.01);
  const quarter = run(thrown(0, [vortex], [2, 0, 0], 60), 0.25);
  expect(quarter.p[0]).toBeCloseTo(0, 3);
  expect(quarter.p[2]).toBeCloseTo(-2, 3);
});

test('the pull of a vortex stops at its axis', () => {
  const { p } = run(thrown(0, [force('vortex', { spin: 0, pull: 50, lift: 1 })], [1, 0, 0]), 2);
  expect(Math.hypot(p[0], p[2])).toBeLessThan(0.02);
  expect(p[1]).toBeGreaterThan(0.5);
});

test('influence scales a force, and 0 leaves the particle alone', () => {
  const half = thrown(0, [force('gravity', {})]);
  half.influence = { gravity: { motes: 0.5 } };
  near(run(half, 2).v[1], -9.81, 1e-4);
  half.influence = { gravity: { motes: 0 } };
  expect(run(half, 2).v[1]).toBeCloseTo(0);
});

test('a force with a shape over life acts by the part of life lived', () => {
  const strength = {
    feed: 'fixed' as const,
    value: 9.81,
    over: [
      { x: 0, y: 0, ease: 'straight' as const },
      { x: 1, y: 1 },
    ],
  };
  const piece = thrown(0, [force('gravity', { strength })]);
  piece.swarms[0]!.dials.lifetime = 10;
  // The integral of 9.81 t / 10 over 4 s.
  near(run(piece, 4).v[1], -9.81 * 0.8, 0.01);
});

test('births are spread between frames: a fast emitter leaves no clumps', () => {
  const piece = thrown(30, []);
  Object.assign(piece.swarms[0]!.dials, { rate: 300, burst: 0, lifetime: 3 });
  run(piece, 1);
  const places = [...engine.state('motes', 'px')].filter((x) => x > 0).sort((a, b) => a - b);
  for (let i = 1; i < places.length; i++) near(places[i]! - places[i - 1]!, 0.1, 0.01);
});

test('a sphere is filled evenly by volume, its surface by area', () => {
  const inside = birthplaces('sphere', { radius: 2, hollow: 0.5 });
  const radii = inside.map((p) => Math.hypot(...p));
  expect(Math.min(...radii)).toBeGreaterThan(0.999);
  expect(chiSquare(radii.map((r) => (r ** 3 - 1) / 7))).toBeLessThan(37.7);
  const surface = birthplaces('sphere', { radius: 2, fill: 'surface' });
  expect(surface.filter((p) => !(Math.abs(Math.hypot(...p) / 2 - 1) <= 1e-5))).toEqual([]);
  // Archimedes: height is even on a sphere.
  expect(chiSquare(surface.map((p) => (p[1] + 2) / 4))).toBeLessThan(37.7);
});

test('a box is filled evenly, its faces by area', () => {
  const inside = birthplaces('box', { size: [4, 2, 1] });
  expect(chiSquare(inside.map((p) => (p[0] + 2) / 4))).toBeLessThan(37.7);
  const faces = birthplaces('box', { size: [4, 2, 1], fill: 'surface' });
  const on = (axis: number, half: number): number =>
    faces.filter((p) => Math.abs(Math.abs(p[axis]!) - half) < 1e-5).length;
  // Areas 2, 4 and 8 of 14.
  [on(0, 2) / 2, on(1, 1) / 4, on(2, 0.5) / 8].forEach((n) => near(n, 20_000 / 14, 0.08));
});

test('a ring has its radius, lies square to its axis, and can be even', () => {
  const axis: Vector = [0, 0.6, 0.8];
  const ring = birthplaces('ring', { radius: 3, axis });
  expect(ring.filter((p) => !(Math.abs(Math.hypot(...p) / 3 - 1) <= 1e-5))).toEqual([]);
  expect(ring.filter((p) => !(Math.abs(p[1] * 0.6 + p[2] * 0.8) < 5e-5))).toEqual([]);
  const even = birthplaces('ring', { radius: 1, placing: 'even', places: 8 });
  const turns = new Set(
    even.map((p) => Math.round((Math.atan2(p[2], p[0]) / Math.PI) * 4 + 8) % 8),
  );
  expect(turns.size).toBe(8);
});

test('a cone keeps to its angle and is even by solid angle', () => {
  const piece = thrown(2, []);
  piece.swarms[0]!.dials.burst = 20_000;
  piece.swarms[0]!.launch.dials.angle = 60;
  run(piece, 1 / 30);
  const cosines = [...engine.state('motes', 'vx')].map((v) => v / 2);
  expect(Math.min(...cosines)).toBeGreaterThan(0.4999);
  expect(chiSquare(cosines.map((c) => (c - 0.5) * 2))).toBeLessThan(37.7);
});

test('spreads: even between their ends; normal with three deviations to each end', () => {
  const lifetimes = (distribution: 'uniform' | 'normal'): number[] => {
    const piece = thrown(0, []);
    const lifetime = { feed: 'spread' as const, from: 2, to: 8, distribution };
    Object.assign(piece.swarms[0]!.dials, { burst: 20_000, lifetime });
    run(piece, 1 / 30);
    return [...engine.state('motes', 'life')];
  };
  expect(chiSquare(lifetimes('uniform').map((l) => (l - 2) / 6))).toBeLessThan(37.7);
  const normal = lifetimes('normal');
  const mean = normal.reduce((a, b) => a + b, 0) / normal.length;
  const deviation = Math.sqrt(normal.reduce((s, l) => s + (l - mean) ** 2, 0) / normal.length);
  near(mean, 5, 0.01);
  near(deviation, 1, 0.03);
});
