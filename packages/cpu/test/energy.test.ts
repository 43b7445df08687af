import { catalogue, type DialValues } from '@vast-swarm/core/kinds';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import type { Vector } from '@vast-swarm/core/feeds';
import { CpuEngine } from '../src';
import { filled } from '../../../tests/support/pieces';
import { force, run as flown, thrown } from './flight';

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 1 });
});
afterAll(() => engine.close());
const run = (piece: Piece, seconds: number) => flown(engine, piece, seconds);

function sent(velocity: Vector, forces: Piece['forces'], at: Vector, rate: number): Piece {
  const piece = thrown(Math.hypot(...velocity), forces, at, rate);
  piece.swarms[0]!.launch.dials.direction = velocity;
  return piece;
}

/** What a walk over the frames of so many seconds finds. */
function along(piece: Piece, seconds: number, see: (p: Vector, v: Vector) => number): number[] {
  const frames = Math.round(seconds * piece.frame.rate);
  run(piece, 0);
  return Array.from({ length: frames }, () => {
    engine.step();
    const read = (names: readonly ('px' | 'py' | 'pz' | 'vx' | 'vy' | 'vz')[]): Vector =>
      names.map((n) => engine.state('motes', n)[0]!) as Vector;
    return see(read(['px', 'py', 'pz']), read(['vx', 'vy', 'vz']));
  });
}

test.each([24, 30, 60, 120])(
  'an orbit in an attraction keeps its radius at %d a second',
  (rate) => {
    const dials = { strength: 4, radius: 1000, falloff: 2, arrive: 0.001 };
    // A steady pull of 4 m/s² at 1 m: a circle at 2 m/s.
    const piece = sent([0, 0, 2], [force('attraction', dials)], [1, 0, 0], rate);
    const radii = along(piece, 10, (p) => Math.hypot(...p));
    expect(Math.max(...radii)).toBeLessThan(1.002);
    expect(Math.min(...radii)).toBeGreaterThan(0.998);
  },
);

test.each([24, 30, 60, 120])('a spring home keeps swing and time at %d a second', (rate) => {
  for (const stiffness of [8, 100, 400]) {
    const spring = force('home', { stiffness, damping: 0 });
    const w = Math.sqrt(stiffness);
    const energy = along(sent([3, 0, 0], [spring], [0, 0, 0], rate), 5, (p, v) =>
      Math.hypot(p[0] * w, v[0]),
    );
    // A step of half a radian shows some of its own swing, and keeps it.
    const step = w / rate;
    expect(Math.abs(Math.max(...energy) / 3 - 1)).toBeLessThan(0.0012 + step * step * 0.2);
    const end = energy.slice(-rate).reduce((a, b) => Math.max(a, b));
    const start = energy.slice(0, rate).reduce((a, b) => Math.max(a, b));
    expect(Math.abs(end / start - 1)).toBeLessThan(0.003);
    const x = along(sent([3, 0, 0], [spring], [0, 0, 0], rate), 5, (p) => p[0]);
    const off = x.map((v, i) => Math.abs(v - (3 / w) * Math.sin((w * (i + 1)) / rate)));
    expect(Math.max(...off)).toBeLessThan((3 / w) * (0.01 + step * step * 0.2));
  }
});

test.each([1e3, 1e4])(
  'a spring of %d /s² is stable at any frame rate, damped or not',
  (stiffness) => {
    for (const rate of [24, 30, 60, 120]) {
      for (const damping of [0, 1, 50]) {
        const spring = force('home', { stiffness, damping });
        const far = along(sent([3, 0, 0], [spring], [0, 0, 0], rate), 10, (p) => Math.abs(p[0]));
        // No step carries it farther than its own way.
        expect(Math.max(...far)).toBeLessThan(3 / rate + 3 / Math.sqrt(stiffness));
      }
    }
  },
);

test('a speed limit lets a falling thing fall at just that speed, and holds what is carried', () => {
  const limit = force('speedLimit', { most: 2 });
  const fall = along(thrown(0, [force('gravity', {}), limit]), 6, (p) => p[1]);
  const speeds = fall.slice(1).map((y, i) => (fall[i]! - y) * 30);
  expect(speeds.at(-1)).toBeCloseTo(2, 4);
  expect(Math.max(...speeds)).toBeLessThan(2.0001);
  const vortex = force('vortex', { spin: 360, falloff: 0 });
  let last: Vector = [3, 0, 0];
  const carried = along(thrown(0, [vortex, limit], [3, 0, 0]), 3, (p) => {
    const way = Math.hypot(...p.map((c, i) => c - last[i]!));
    last = p;
    return way * 30;
  });
  // At 3 m a turn a second would be 19 m/s.
  expect(Math.max(...carried)).toBeLessThan(2.0001);
  expect(carried.at(-1)).toBeCloseTo(2, 3);
});

/** New in every frame, and so another walk at another rate. */
const RANDOM = ['jostle'];

const forces = catalogue.forces.filter(({ kind }) => !RANDOM.includes(kind));

test.each(forces.map(({ kind }) => [kind]))(
  '%s ends at 30 frames a second where it does at 120',
  (kind) => {
    const { dials } = catalogue.forces.find((f) => f.kind === kind)!;
    const ends = [30, 120, 480].map((rate) => {
      const part = makePart('forces', kind, []);
      filled(dials, part.dials);
      const piece = sent([0.6, 0.3, -0.7], [part], [0.4, 0.3, 0.5], rate);
      return run(piece, 2).p;
    });
    const off = (a: Vector, b: Vector): number => Math.hypot(...a.map((c, i) => c - b[i]!));
    const [slow, fine] = [off(ends[0]!, ends[2]!), off(ends[1]!, ends[2]!)];
    expect(slow).toBeLessThan(0.006);
    expect(fine).toBeLessThan(0.0006);
  },
);

test.each<[string, DialValues]>([
  ['curlNoise', { strength: 1, scale: 1, change: 0 }],
  ['turbulence', { strength: 8, scale: 1, change: 0 }],
  ['attraction', { strength: 4, radius: 1 }],
])('half the step is a quarter of the error of %s', (kind, dials) => {
  const ends = [30, 60, 960].map(
    (rate) => run(sent([0.6, 0.3, -0.7], [force(kind, dials)], [0.4, 0.3, 0.5], rate), 1).p,
  );
  const off = (a: Vector, b: Vector): number => Math.hypot(...a.map((c, i) => c - b[i]!));
  expect(off(ends[0]!, ends[2]!) / off(ends[1]!, ends[2]!)).toBeGreaterThan(2.8);
});
