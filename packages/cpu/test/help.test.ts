import { compilePiece } from '@vast-swarm/core/plan';
import { makeChoice, makePart, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import type { Clip, StockFiles, Picture } from '@vast-swarm/core/stock';
import type { DialValues } from '@vast-swarm/core/kinds';
import type { Vector } from '@vast-swarm/core/feeds';
import { CpuEngine } from '../src';
import { aimed } from './aimed';
import { chiSquare, force, run as flown, thrown } from './flight';

/** Dials do what their help says. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 1 });
});
afterAll(() => engine.close());
const run = (piece: Piece, seconds: number) => flown(engine, piece, seconds);

test.each([1, 2, 3, 5, 10, 30])(
  'a limit of %d is the most that live, and the youngest do',
  (limit) => {
    const piece = thrown(1, []);
    Object.assign(piece.swarms[0]!.dials, { rate: 300, burst: 50, lifetime: 4, limit });
    run(piece, 0);
    for (let i = 0; i < 40; i++) {
      engine.step();
      expect(engine.alive().get('motes')).toBe(limit);
    }
    const [age, life] = (['age', 'life'] as const).map((n) => engine.state('motes', n));
    const ages = Array.from(age!).filter((a, i) => a >= 0 && a < life![i]!);
    expect(Math.max(...ages)).toBeLessThan((limit + 1) / 300 + 1e-4);
  },
);

test('an outline of a short and a long line has births by length', () => {
  // One line of 1 cm, one of 10 m.
  const piece = thrown(0, []);
  const source = { path: 'M0 0 L0.01 0 M0 5 L10 5' };
  piece.stock.push({ id: 'lines', name: 'Lines', type: 'outline', source });
  piece.swarms[0]!.emitter = makeChoice('emitters', 'outline');
  Object.assign(piece.swarms[0]!.emitter.dials, { outline: 'lines' });
  piece.swarms[0]!.dials.burst = 20_000;
  run(piece, 1 / 30);
  const [x, y] = (['px', 'py'] as const).map((n) => Array.from(engine.state('motes', n)));
  const long = x!.filter((_, i) => y![i]! < -2.5);
  expect(20_000 - long.length).toBeGreaterThan(5);
  expect(20_000 - long.length).toBeLessThan(45);
  expect(chiSquare(long.map((v) => v / 10))).toBeLessThan(37.7);
});

test('ages are the seconds that have passed, for an hour', () => {
  for (const rate of [24, 30, 60]) {
    const piece = thrown(0, [], [0, 0, 0], rate);
    Object.assign(piece.swarms[0]!.dials, { burst: 0, rate: 7, end: 1, lifetime: 3600 });
    run(piece, 0);
    for (let i = 0; i < 2833 * rate; i++) engine.step();
    const ages = Array.from(engine.state('motes', 'age')).slice(0, 7);
    ages.forEach((age, i) => expect(Math.abs(age - (2833 - i / 7))).toBeLessThan(2e-3));
  }
});

test.each([0.25, 2, 8])(
  'what a turning emitter throws has its speed at %d turns a second',
  (turns) => {
    const piece = thrown(0, []);
    const swarm = piece.swarms[0]!;
    const signal = { ...makePart('signals', 'keyframes', []), id: 'spin' };
    signal.dials.keys = [
      { at: 0, value: 0, ease: 'straight' },
      { at: 4, value: 4 * 360 * turns },
    ];
    piece.signals.push(signal);
    swarm.emitter.dials.turn = [0, 0, { feed: 'signal', signal: 'spin', from: 0, to: 1 }];
    swarm.emitter.dials.pivot = [2, 0, 0];
    swarm.launch.dials.inherit = 1;
    Object.assign(swarm.dials, { burst: 0, rate: 300 });
    run(piece, 0.5);
    const [vx, vy] = (['vx', 'vy'] as const).map((n) => engine.state('motes', n));
    for (let i = 0; i < 100; i++) {
      const speed = Math.hypot(vx![i]!, vy![i]!);
      expect(Math.abs(speed / (2 * Math.PI * turns * 2) - 1)).toBeLessThan(0.002);
    }
  },
);

test('a dense flock looks at its neighbours fairly: the pull is that of all', () => {
  // 400 in one cell, in a line of slots along x, so that the lowest slots are all at one end.
  const list = Array.from({ length: 400 }, (_, i) => ({
    from: [0.05 + (0.3 * i) / 400, 0.2, 0.2] as Vector,
    velocity: [0, 0, 0] as Vector,
  }));
  const piece = aimed(list, 30);
  piece.forces = [force('flocking', { radius: 1, separation: 0, alignment: 0, cohesion: 1 })];
  run(piece, 1 / 30);
  const vx = engine.state('motes', 'vx');
  const middle = list.reduce((s, a) => s + a.from[0], 0) / 400;
  const off = list.map((a, i) => vx[i]! * 30 - (middle - a.from[0]));
  const mean = off.reduce((a, b) => a + b, 0) / 400;
  const spread = Math.sqrt(off.reduce((s, v) => s + v * v, 0) / 400);
  // The lowest 24 would pull all to one end by 0.14.
  expect(Math.abs(mean)).toBeLessThan(0.005);
  expect(spread).toBeLessThan(0.02);
});

test('jitter is a ball round the particle, even by volume', () => {
  const piece = thrown(0, []);
  const child = makeSwarm('swarm', piece.swarms);
  child.id = 'sparks';
  Object.assign(child.emitter.dials, { swarm: 'motes', jitter: 0.5 });
  Object.assign(child.dials, { rate: 0, burst: 8000, burstAt: 0.2, lifetime: 10 });
  child.launch = makeChoice('launches', 'cone');
  child.launch.dials.speed = 0;
  piece.swarms.push(child);
  run(piece, 0.3);
  const [x, y, z] = (['px', 'py', 'pz'] as const).map((n) => engine.state('sparks', n));
  const far = Array.from(x!, (v, i) => Math.hypot(v, y![i]!, z![i]!)).slice(0, 8000);
  expect(Math.max(...far)).toBeLessThanOrEqual(0.5001);
  expect(chiSquare(far.map((d) => (d / 0.5) ** 3))).toBeLessThan(37.7);
});

test.each<[string, DialValues, (v: Vector, p: Vector) => number]>([
  ['attraction', { strength: 3, radius: 0.5, falloff: 0, centre: [100, 0, 0] }, (v) => v[0] / 3],
  [
    'vortex',
    { spin: 30, radius: 0.5, falloff: 0, centre: [0, 0, 4] },
    (_, p) => p[0] / -4 / (Math.PI / 6),
  ],
])('%s with a falloff of 0 is the same everywhere', (kind, dials, strength) => {
  const { p, v } = run(thrown(0, [force(kind, dials)], [0, 0, 0], 30), 1 / 30);
  expect(strength(v, p) * 30).toBeCloseTo(1, 3);
});

test('turbulence is as strong as it says: the root mean square of its push', () => {
  const list = Array.from({ length: 4000 }, (_, i) => ({
    from: [(i % 20) * 3.37, (Math.floor(i / 20) % 20) * 3.13, Math.floor(i / 400) * 3.71] as Vector,
    velocity: [0, 0, 0] as Vector,
  }));
  const piece = aimed(list, 30);
  piece.forces = [force('turbulence', { strength: 6, octaves: 1, scale: 1, change: 0 })];
  engine.setPlan(compilePiece(piece));
  engine.reset();
  engine.step();
  const [vx, vy, vz] = (['vx', 'vy', 'vz'] as const).map((n) => engine.state('motes', n));
  const square = list.reduce((s, _, i) => s + vx![i]! ** 2 + vy![i]! ** 2 + vz![i]! ** 2, 0);
  expect(Math.abs((Math.sqrt(square / 4000) * 30) / 6 - 1)).toBeLessThan(0.04);
});

/** A picture of four pixels side by side with these values of light, as a file of the stock. */
function barsOf(levels: readonly number[]): { piece: Piece; files: Map<string, Picture> } {
  const srgb = (v: number): number =>
    Math.round(255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055));
  const pixels = Uint8Array.from(levels.flatMap((v) => [srgb(v), srgb(v), srgb(v), 255]));
  const hash = 'cd'.repeat(32);
  const piece = thrown(0, []);
  piece.stock.push({
    id: 'bars',
    name: 'Bars',
    type: 'picture',
    source: { file: 'bars.png', hash },
  });
  piece.swarms[0]!.emitter = makeChoice('emitters', 'picture');
  Object.assign(piece.swarms[0]!.emitter.dials, { picture: 'bars', width: 4, limit: 0.05 });
  piece.swarms[0]!.dials.burst = 20_000;
  const picture: Picture = { type: 'picture', width: levels.length, height: 1, pixels };
  return { piece, files: new Map([[hash, picture]]) };
}

test.each<['even' | 'value', boolean]>([
  ['even', false],
  ['value', false],
  ['even', true],
  ['value', true],
])('births from a picture with density "%s", moving: %s', (density, moving) => {
  const levels = [0.8, 0.4, 0.1, 0.01];
  const { piece, files: pictures } = barsOf(levels);
  piece.swarms[0]!.emitter.dials.density = density;
  let files: StockFiles = pictures;
  if (moving) {
    const clips = [...pictures].map(([hash, picture]): [string, Clip] => {
      const { width, height } = picture;
      const times = Float64Array.of(0, 1);
      return [hash, { type: 'clip', width, height, times, picture: () => picture }];
    });
    files = new Map(clips);
    piece.stock.find((s) => s.id === 'bars')!.type = 'clip';
    piece.pictures = [makePart('pictures', 'played', [])];
    piece.pictures[0]!.dials.clip = 'bars';
    piece.swarms[0]!.emitter.dials.picture = 'played';
  }
  engine.setPlan(compilePiece(piece, { files }));
  engine.reset();
  engine.step();
  const counts = [0, 0, 0, 0];
  for (const x of engine.state('motes', 'px')) counts[Math.floor(x + 2)]! += 1;
  const passing = levels.map((v) => (v >= 0.05 ? (density === 'even' ? 1 : v) : 0));
  const total = passing.reduce((a, b) => a + b, 0);
  passing.forEach((share, i) => {
    expect(Math.abs(counts[i]! / 20_000 - share / total)).toBeLessThan(0.012);
  });
});
