import '@vast-swarm/core/content';
import { compilePiece } from '@vast-swarm/core/plan';
import { made, offerMade, type Mesh, type Outline, type Picture } from '@vast-swarm/core/stock';
import { makeChoice, makePart, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import { Playback } from '@vast-swarm/core/play';
import type { DialValues } from '@vast-swarm/core/kinds';
import type { Vector } from '@vast-swarm/core/feeds';
import { pointAlong } from '@vast-swarm/core/stock/places/along';
import { fieldOf } from '@vast-swarm/core/stock/places/distanceField';
import { matched } from '@vast-swarm/core/stock/places/match';
import { CpuEngine } from '../src';
import { birthplaces as bornAt, chiSquare, force, near, run as flown, thrown } from './flight';

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());
const run = (piece: Piece, seconds: number) => flown(engine, piece, seconds);
const birthplaces = (kind: string, dials: DialValues) => bornAt(engine, kind, dials);
const state = (name: string): Float32Array => engine.state('motes', name);

test('births on a line, a disc and a rectangle are even', () => {
  expect(chiSquare(birthplaces('line', {}).map((p) => (p[0] + 1) / 2))).toBeLessThan(37.7);
  const disc = birthplaces('disc', { radius: 2, hollow: 0.5 });
  expect(chiSquare(disc.map((p) => (Math.hypot(p[0], p[2]) ** 2 - 1) / 3))).toBeLessThan(37.7);
  const flat = birthplaces('rectangle', { width: 4, depth: 1 });
  expect(chiSquare(flat.map((p) => (p[0] + 2) / 4))).toBeLessThan(37.7);
  const rim = birthplaces('rectangle', { width: 3, depth: 1, fill: 'edges' });
  const along = rim.filter((p) => Math.abs(Math.abs(p[2]) - 0.5) < 1e-6).length;
  near(along, 15_000, 0.02);
});

test('births on faces go by area', () => {
  // Each face of the buoy gets its share, summed by bands of the mesh's own faces.
  const mesh = made('buoy') as Mesh;
  const heights = birthplaces('mesh', { mesh: 'buoy' }).map((p) => p[1]);
  const areas = new Map<number, number>();
  const band = (y: number): number => Math.floor((y + 1.5) / 0.2);
  let total = 0;
  for (let t = 0; t < mesh.triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => {
      const v = 3 * mesh.triangles[t + k]!;
      return mesh.positions.slice(v, v + 3);
    }) as [Float32Array, Float32Array, Float32Array];
    const u = [0, 1, 2].map((k) => b[k]! - a[k]!);
    const v = [0, 1, 2].map((k) => c[k]! - a[k]!);
    const cross = [0, 1, 2].map(
      (k) => u[(k + 1) % 3]! * v[(k + 2) % 3]! - u[(k + 2) % 3]! * v[(k + 1) % 3]!,
    );
    const area = Math.hypot(...cross) / 2;
    const middle = band((a[1]! + b[1]! + c[1]!) / 3);
    areas.set(middle, (areas.get(middle) ?? 0) + area);
    total += area;
  }
  let chi = 0;
  for (const [at, area] of areas) {
    const wanted = (heights.length * area) / total;
    if (wanted < 50) continue;
    const got = heights.filter((y) => band(y) === at).length;
    chi += (got - wanted) ** 2 / wanted;
  }
  // About 16 bands; faces that lie across a border of bands add a little.
  expect(chi).toBeLessThan(60);
});

test('births on vertices, edges and inside a mesh lie there', () => {
  const { positions } = made('buoy') as Mesh;
  const known = new Set(
    Array.from({ length: positions.length / 3 }, (_, i) =>
      [...positions.slice(3 * i, 3 * i + 3)].map((v) => v.toFixed(4)).join(),
    ),
  );
  const vertices = birthplaces('mesh', { mesh: 'buoy', from: 'vertices', order: 'shuffled' });
  const elsewhere = vertices.filter((p) => !known.has(p.map((v) => v.toFixed(4)).join()));
  expect(elsewhere).toEqual([]);
  // Mixed, but each once before any comes again.
  const count = positions.length / 3;
  const first = new Set(vertices.slice(0, count).map((p) => p.join()));
  expect(first.size).toBe(new Set([...first, ...vertices.map((p) => p.join())]).size);
  const field = fieldOf(made('buoy') as Mesh, 48);
  const distance = ([x, y, z]: [number, number, number]): number => {
    const cell = [x, y, z].map((c, i) => Math.round((c - field.origin[i]!) / field.step));
    const at = cell[0]! + field.size[0] * (cell[1]! + field.size[1] * cell[2]!);
    return field.values[at]!;
  };
  const inside = birthplaces('mesh', { mesh: 'buoy', from: 'inside' });
  expect(inside.filter((p) => !(distance(p) < field.step))).toEqual([]);
  expect(inside.some((p) => distance(p) < -5 * field.step)).toBe(true);
});

test('a lattice has its rows, columns and layers, in order', () => {
  const places = birthplaces('lattice', { columns: 3, rows: 2, layers: 2, spacing: [1, 2, 3] });
  expect(places[0]).toEqual([-1, -1, -1.5]);
  expect(places[1]).toEqual([0, -1, -1.5]);
  expect(places[3]).toEqual([-1, 1, -1.5]);
  expect(places[11]).toEqual([1, 1, 1.5]);
  expect(places[12]).toEqual(places[0]);
});

test('even births on an outline stand at even arc length, to 0.1 %', () => {
  const outline = made('harbourMark') as Outline;
  const places = birthplaces('outline', { outline: 'harbourMark', placing: 'even', places: 50 });
  for (let i = 0; i < 50; i++) {
    const wanted = pointAlong(outline, (i + 0.5) / 50);
    wanted.forEach((w, k) => expect(Math.abs(places[i]![k]! - w)).toBeLessThan(2e-3));
  }
});

test('creeping along an outline goes at its pace and stays on the line', () => {
  const piece = thrown(0, []);
  const swarm = piece.swarms[0]!;
  piece.stock.push({
    id: 'circle',
    name: 'Circle',
    type: 'outline',
    source: { path: 'M0 -1 A1 1 0 1 1 0 1 A1 1 0 1 1 0 -1 Z' },
  });
  swarm.emitter = makeChoice('emitters', 'outline');
  Object.assign(swarm.emitter.dials, { outline: 'circle', placing: 'even', places: 4, pace: 0.5 });
  const { p: start } = run(piece, 1 / 30);
  const { p } = run(piece, Math.PI + 1 / 30);
  near(Math.hypot(...p), 1, 1e-3);
  // Half the circle's length in this time at half a metre a second: a quarter turn.
  const turn = Math.acos(
    (p[0] * start[0] + p[1] * start[1]) / (Math.hypot(...p) * Math.hypot(...start)),
  );
  expect(turn).toBeCloseTo(Math.PI / 2, 2);
});

test('a picture gives births where it is bright, with its colours', () => {
  const piece = thrown(0, []);
  piece.swarms[0]!.emitter = makeChoice('emitters', 'picture');
  Object.assign(piece.swarms[0]!.emitter.dials, { picture: 'chart', limit: 0.3, width: 4 });
  Object.assign(piece.swarms[0]!.dials, { burst: 5000, colour: { feed: 'place' } });
  run(piece, 1 / 30);
  const { red, green, blue } = engine.readings('motes');
  const dark = Array.from(red, (r, i) => 0.2126 * r + 0.7152 * green[i]! + 0.0722 * blue[i]!);
  expect(Math.min(...dark)).toBeGreaterThanOrEqual(0.3 - 1e-5);
  expect(new Set(red).size).toBeGreaterThan(20);
  expect(Math.max(...state('px'))).toBeLessThanOrEqual(2);
});

test('births from another swarm start at its living particles and take their motion along', () => {
  const piece = thrown(3, []);
  const child = { ...structuredClone(makeSwarm('swarm', [])), id: 'wake' };
  child.emitter.dials.swarm = 'motes';
  child.emitter.dials.share = 0.5;
  child.launch.dials.speed = 0;
  Object.assign(child.dials, { rate: 300, lifetime: 50 });
  // The child stands first in the line-up: it is simulated behind its parent all the same.
  piece.swarms.unshift(child);
  run(piece, 2);
  const [x, v, age] = ['px', 'vx', 'age'].map((n) => engine.state('wake', n));
  for (let i = 0; i < 500; i++) {
    expect(v![i]).toBeCloseTo(1.5, 4);
    const born = 2 - age![i]!;
    expect(Math.abs(x![i]! - (3 * born + 1.5 * age![i]!))).toBeLessThan(2e-2);
  }
});

test('births from another swarm are turned about the pivot and moved, place and motion', () => {
  const piece = thrown(3, []);
  const child = { ...structuredClone(makeSwarm('swarm', [])), id: 'wake' };
  const place = { centre: [0, 5, 0], turn: [0, 0, 90], pivot: [1, 0, 0] } as const;
  Object.assign(child.emitter.dials, { swarm: 'motes', share: 0.5, ...place });
  child.launch.dials.speed = 0;
  Object.assign(child.dials, { rate: 300, lifetime: 50 });
  piece.swarms.push(child);
  run(piece, 2);
  const [x, y, vx, vy, age] = ['px', 'py', 'vx', 'vy', 'age'].map((n) => engine.state('wake', n));
  for (let i = 0; i < 500; i++) {
    // Along x at 3 m/s becomes up from (1, 4).
    const born = 2 - age![i]!;
    expect(Math.abs(x![i]! - 1)).toBeLessThan(1e-4);
    expect(Math.abs(y![i]! - (4 + 3 * born + 1.5 * age![i]!))).toBeLessThan(2e-2);
    expect(Math.abs(vx![i]!)).toBeLessThan(1e-4);
    expect(vy![i]).toBeCloseTo(1.5, 4);
  }
});

test('two swarms that are born from each other give a notice and no particles', () => {
  const piece = thrown(0, []);
  const [a] = piece.swarms;
  a!.emitter = makeChoice('emitters', 'swarm');
  a!.emitter.dials.swarm = 'other';
  piece.swarms.push({ ...structuredClone(a!), id: 'other', name: 'Other' });
  piece.swarms[1]!.emitter.dials.swarm = 'motes';
  const plan = compilePiece(piece);
  expect(plan.notices.map((n) => n.message).join()).toContain('born from each other');
  run(piece, 1);
  expect([...engine.alive().values()]).toEqual([0, 0]);
});

test('a fast emitter that is keyed leaves no clumps, and its motion is inherited', () => {
  const piece = thrown(0, []);
  piece.signals.push({ ...makePart('signals', 'keyframes', []), id: 'rail' });
  piece.signals[0]!.dials.keys = [
    { at: 0, value: 0, ease: 'straight' },
    { at: 10, value: 1 },
  ];
  const swarm = piece.swarms[0]!;
  swarm.emitter.dials.centre = [{ feed: 'signal', signal: 'rail', from: 0, to: 100 }, 0, 0];
  Object.assign(swarm.dials, { rate: 300, burst: 0, lifetime: 30 });
  run(piece, 1);
  const places = [...state('px')].slice(0, 300).sort((a, b) => a - b);
  for (let i = 1; i < 299; i++) near(places[i]! - places[i - 1]!, 10 / 300, 0.02);
  swarm.launch.dials.inherit = 0.5;
  run(piece, 1);
  near(state('vx')[50]!, 5, 1e-3);
});

test('an emitter is carried along a line', () => {
  const piece = thrown(0, []);
  piece.stock.push({
    id: 'path',
    name: 'Path',
    type: 'outline',
    source: { path: 'M0 0 H4 V-2' },
  });
  const formula = { feed: 'formula' as const, text: 'time / 6', from: 0, to: 1 };
  Object.assign(piece.swarms[0]!.emitter.dials, { along: 'path', progress: formula });
  Object.assign(piece.swarms[0]!.dials, { rate: 30, burst: 0 });
  run(piece, 5.5);
  // Six metres in six seconds: after five the corner at (4, 0) is a metre behind; SVG counts y down.
  expect(state('px')[150]).toBeCloseTo(4, 1);
  expect(state('py')[150]).toBeCloseTo(1, 1);
  expect(state('px')[60]).toBeCloseTo(2, 1);
});

test('a spun emitter turns about its pivot', () => {
  const piece = thrown(0, [], [1, 0, 0]);
  const formula = { feed: 'formula' as const, text: '90 * time', from: -1e4, to: 1e4 };
  Object.assign(piece.swarms[0]!.emitter.dials, { turn: [0, 0, formula], pivot: [-1, 0, 0] });
  Object.assign(piece.swarms[0]!.dials, { rate: 30, burst: 0 });
  run(piece, 2);
  // Born after one second, a quarter turn on: from (1, 0) to (0, 1) about the origin.
  expect(state('px')[30]).toBeCloseTo(0, 3);
  expect(state('py')[30]).toBeCloseTo(1, 3);
});

test('morph ends are the sampled places exactly, whatever stagger and detour', () => {
  const shapes = [made('conch'), made('buoy')];
  const found = matched(shapes, 500).shapes;
  const piece = thrown(0, []);
  const swarm = piece.swarms[0]!;
  swarm.emitter = makeChoice('emitters', 'morph');
  Object.assign(swarm.emitter.dials, { shape1: 'conch', shape2: 'buoy', places: 500 });
  Object.assign(swarm.dials, { burst: 500 });
  for (const [amount, k] of [
    [0, 0],
    [1, 1],
    // Amounts are kept between the first and the last shape.
    [3, 1],
  ] as const) {
    swarm.emitter.dials.amount = amount;
    run(piece, 0.5);
    (['px', 'py', 'pz'] as const).forEach((name, axis) => {
      expect(state(name)).toEqual(found[k]![axis]);
    });
  }
  swarm.emitter.dials.amount = 0.5;
  run(piece, 0.5);
  const there = state('px').filter((x, i) => x === found[0]![0]![i] || x === found[1]![0]![i]);
  expect(there.length).toBeLessThan(250);
});

test('attraction ends at its point; a spring home brings particles back', () => {
  const pull = force('attraction', { strength: 20, falloff: 0 });
  const { p } = run(thrown(0, [pull, force('drag', { amount: 3 })], [1, 0.5, 0]), 12);
  expect(Math.hypot(...p)).toBeLessThan(0.02);
  // The wind is met by the spring where k x = grip (air - 0).
  const piece = thrown(
    0,
    [force('home', { stiffness: 50, damping: 6 }), force('wind', {})],
    [3, 1, 2],
  );
  const rest = run(piece, 12);
  expect(rest.p[0]).toBeCloseTo(3 + 2 / 50, 2);
  expect(rest.p[1]).toBeCloseTo(1, 3);
});

test('the surface of a mesh attracts', () => {
  const pull = force('attraction', { to: 'mesh', mesh: 'buoy', strength: 12, falloff: 0 });
  const { p } = run(thrown(0, [pull, force('drag', { amount: 4 })], [2, -0.5, 0.3]), 12);
  near(Math.hypot(p[0], p[2]), 1.08, 0.05);
});

test('a speed limit holds, and a region has its edge', () => {
  const { v } = run(thrown(0, [force('gravity', {}), force('speedLimit', { most: 3 })]), 4);
  near(Math.hypot(...v), 3, 1e-4);
  const inside: DialValues = { region: 'box', regionSize: [2, 2, 2], regionSoft: 0 };
  const wind = force('gravity', { ...inside, direction: [1, 0, 0], strength: 2 });
  // Pushed over one metre, then on at the speed √(2 a s).
  near(run(thrown(0.001, [wind]), 5).v[0], 2, 0.04);
});

test('flocking agrees with a search over all pairs', () => {
  const dials = { radius: 0.6, separation: 1.5, alignment: 0.7, cohesion: 0.9 };
  const piece = thrown(0, [force('flocking', dials)]);
  const swarm = piece.swarms[0]!;
  swarm.emitter = makeChoice('emitters', 'sphere');
  swarm.launch = makeChoice('launches', 'allRound');
  Object.assign(swarm.dials, { burst: 300 });
  run(piece, 1);
  const now = ['px', 'py', 'pz', 'vx', 'vy', 'vz'].map((n) => state(n).slice());
  engine.step();
  const read = (list: Float32Array[], i: number, from: number): number[] =>
    [0, 1, 2].map((k) => list[from + k]![i]!);
  for (let i = 0; i < 300; i += 7) {
    const [p, v] = [read(now, i, 0), read(now, i, 3)];
    const sums = [0, 1, 2].map(() => [0, 0, 0]);
    let count = 0;
    for (let j = 0; j < 300; j++) {
      const offset = read(now, j, 0).map((c, k) => c - p[k]!);
      const distance = Math.hypot(...offset);
      if (j === i || distance >= 0.6) continue;
      count += 1;
      const speed = read(now, j, 3).map((c, k) => c - v[k]!);
      for (let k = 0; k < 3; k++) {
        sums[0]![k]! -= (offset[k]! / distance) * (1 - distance / 0.6);
        sums[1]![k]! += speed[k]!;
        sums[2]![k]! += offset[k]!;
      }
    }
    for (let k = 0; k < 3; k++) {
      const n = Math.max(1, count);
      const push = 1.5 * sums[0]![k]! + (0.7 * sums[1]![k]!) / n + (0.9 * sums[2]![k]!) / n;
      const got = (state('vxvyvz'.slice(2 * k, 2 * k + 2))[i]! - v[k]!) * 30;
      expect(Math.abs(got - push)).toBeLessThan(2e-3 * Math.max(1, Math.abs(push)));
    }
  }
});

test('a brushed stroke leads along itself', () => {
  const strokes = [{ points: [0, 0.5, 1, 0.5], radius: 0.3, strength: 1 }];
  const flow = force('brushed', { strokes, acts: 'carry', speed: 0.5 });
  const { p } = run(thrown(0, [flow], [-1, 0, 0]), 2);
  expect(p[0]).toBeCloseTo(0, 1);
  expect(p[1]).toBeCloseTo(0, 3);
  const off = run(thrown(0, [flow], [-1, 1, 0]), 2);
  expect(off.p[0]).toBeCloseTo(-1, 5);
});

/** A picture of a cone of light, as its steps are seen: equally steep everywhere but at its tip and beyond its foot. */
function cone(side: number): Picture {
  const pixels = new Uint8Array(4 * side * side).fill(255);
  for (let i = 0; i < side * side; i++) {
    const [x, y] = [i % side, Math.floor(i / side)].map((v) => (v + 0.5) / side - 0.5);
    const light = Math.max(0, 1 - 2 * Math.hypot(x!, y!)) ** 3;
    const grey = light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055;
    pixels.fill(Math.round(255 * grey), 4 * i, 4 * i + 3);
  }
  return { type: 'picture', width: side, height: side, pixels };
}

test('a picture leads round its light, or up to it, as fast as it says', () => {
  offerMade('cone', { title: 'Cone', type: 'picture', make: () => cone(256) });
  const led = (reads: string, from: Vector, seconds: number): Vector => {
    const dials = {
      picture: 'cone',
      reads,
      acts: 'carry',
      speed: 0.2,
      blur: 0.02,
      width: 2,
      height: 2,
    };
    const piece = thrown(0, [force('pictureFlow', dials)], from);
    piece.stock.push({ id: 'cone', name: 'Cone', type: 'picture', source: { made: 'cone' } });
    return run(piece, seconds).p;
  };
  for (const turn of [0, 0.7, 2.4, 4]) {
    const at = (r: number, angle: number): Vector => [r * Math.cos(angle), r * Math.sin(angle), 0];
    const round = led('contours', at(0.5, turn), 1);
    // Clockwise, as far from the middle as before, by its way over its radius.
    expect(Math.hypot(round[0], round[1])).toBeCloseTo(0.5, 2);
    const angle = turn - Math.atan2(round[1], round[0]);
    near(Math.sin(angle), Math.sin(0.2 / 0.5), 0.15);
    expect(Math.cos(angle)).toBeGreaterThan(0);
    const up = led('slopes', at(0.5, turn), 1);
    near(Math.hypot(up[0], up[1]), 0.5 - 0.2, 0.15);
    expect(Math.hypot(up[0] - at(0.5, turn)[0], up[1] - at(0.5, turn)[1])).toBeLessThan(0.2);
  }
});

test('a stroke along a surface leads along itself in space, and not beyond its radius', () => {
  const strokes = [{ places: [0, 0, 0, 0, 0, 2, 2, 0, 2], radius: 0.4, strength: 1 }];
  const dials = { strokes, over: 'surface', acts: 'carry', speed: 0.5 };
  const flow = force('brushed', dials);
  const { p } = run(thrown(0, [flow], [0, 0, 0.2]), 2);
  expect(p[2]).toBeGreaterThan(0.95);
  expect(Math.abs(p[0])).toBeLessThan(0.1);
  const off = run(thrown(0, [flow], [0, 1, 0.2]), 2);
  expect(off.p).toEqual([0, 1, expect.closeTo(0.2)]);
});

test.each<[string, DialValues[string], (t: number) => number]>([
  [
    'a signal',
    { feed: 'signal', signal: 'rise', from: 2, to: 6 },
    (t) => 2 + 4 * Math.min(1, t / 4),
  ],
  [
    'a formula',
    { feed: 'formula', text: '3 + 2 * lived', from: 0, to: 9 },
    (t) => 3 + (2 * t) / 100,
  ],
])('a force driven by %s follows it', (_, strength, exact) => {
  const piece = thrown(0, [force('gravity', { strength })]);
  piece.signals.push({ ...makePart('signals', 'keyframes', []), id: 'rise' });
  piece.signals[0]!.dials.keys = [
    { at: 0, value: 0, ease: 'straight' },
    { at: 4, value: 1 },
  ];
  const { v } = run(piece, 3);
  let wanted = 0;
  for (let i = 0; i < 3000; i++) wanted += exact((i + 0.5) / 1000) / 1000;
  near(-v[1], wanted, 0.01);
});

test('a rate that is driven gives as many births as its integral', () => {
  const piece = thrown(0, []);
  piece.signals.push({ ...makePart('signals', 'wave', []), id: 'tide' });
  Object.assign(piece.signals[0]!.dials, { period: 2 });
  const rate: DialValues[string] = { feed: 'signal', signal: 'tide', from: 0, to: 3000 };
  Object.assign(piece.swarms[0]!.dials, { burst: 0, rate });
  run(piece, 4);
  near(engine.born('motes'), 6000, 0.01);
});

test('a state is the same played and scrubbed back to, with all that is kept from birth', () => {
  const piece = thrown(1, [force('home', {}), force('curlNoise', {})]);
  Object.assign(piece.swarms[0]!.dials, { rate: 500, burst: 0, lifetime: 2 });
  run(piece, 1.5);
  const wanted = state('px').slice();
  const playback = new Playback(engine, 1e8);
  playback.setPlan(compilePiece(piece));
  playback.restart();
  playback.seek(80);
  playback.seek(44);
  expect(state('px')).toEqual(wanted);
});

test('where less is to come before the first frame while that comes, it begins anew', () => {
  const plan = (preroll: number): ReturnType<typeof compilePiece> => {
    const piece = thrown(1, [force('curlNoise', {})]);
    Object.assign(piece.swarms[0]!.dials, { rate: 500, burst: 0, lifetime: 2 });
    piece.frame.preroll = preroll;
    return compilePiece(piece);
  };
  const playback = new Playback(engine, 1e8);
  const played = (): Float32Array => {
    while (playback.frame < 10) playback.advance();
    return state('px').slice();
  };
  playback.setPlan(plan(40));
  playback.restart();
  for (let i = 0; i < 20; i++) playback.advance();
  playback.setPlan(plan(5));
  const changed = played();
  playback.restart();
  expect(changed).toEqual(played());
  expect(playback.exact).toBe(true);
});

test('copies stand where their chain puts them, and are drawn without more particles', () => {
  const piece = thrown(0, []);
  piece.forces = [];
  Object.assign(piece.camera.dials, { elevation: 0, distance: 10, view: 60 });
  Object.assign(piece.swarms[0]!.dials, { size: 0.3, opacity: 1, burst: 4 });
  piece.backdrop = makeChoice('backdrops', 'flat');
  piece.finish = [];
  piece.swarms[0]!.copies = [
    { count: 3, offset: [2, 0, 0], turn: [0, 0, 90], scale: 0.5 },
    { count: 2, offset: [0, 0, 0], turn: [0, 0, 0], scale: 1 },
  ];
  run(piece, 1);
  expect([...engine.alive().values()]).toEqual([4]);
  const { pixels } = engine.draw(200, 120);
  const focal = 120 / 2 / Math.tan(Math.PI / 6);
  const lit = (x: number, y: number): boolean => {
    const [column, row] = [100 + (x * focal) / 10, 60 - (y * focal) / 10];
    return pixels[4 * (Math.floor(row) * 200 + Math.floor(column))]! > 40;
  };
  // The second stands at (2, 0); the third is the second's own second: half as far, a quarter turn on.
  expect([lit(0, 0), lit(2, 0), lit(2, 1), lit(4, 0)]).toEqual([true, true, true, false]);
});
