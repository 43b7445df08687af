import { compilePiece } from '@vast-swarm/core/plan';
import { kindOf, type DialValues } from '@vast-swarm/core/kinds';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import type { Mesh } from '@vast-swarm/core/stock';
import type { Vector } from '@vast-swarm/core/feeds';
import { CpuEngine } from '../src';
import { generator } from '../../kernel/test/harness';
import { filled } from '../../../tests/support/pieces';
import { aimed, type Aim } from './aimed';
import {
  add,
  ballMesh,
  ballShape,
  boxShape,
  capsuleShape,
  cross,
  dot,
  facesShape,
  planeShape,
  sheetMesh,
  sheetShape,
  size,
  slope,
  times,
  turned,
  unit,
  type Shape,
} from './shapes';
import { swept } from '../../../tests/support/sweep';

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 1 });
});
afterAll(() => engine.close());

const MESH = 'ab'.repeat(32);

interface Solid {
  name: string;
  kind: string;
  dials: DialValues;
  /** Distance to it, in its own frame; below 0 where particles are not allowed. */
  shape: Shape;
  mesh?: Mesh;
}

const edges: Vector = [2, 0.02, 1.4];
const [one, other]: [Vector, Vector] = [
  [0, -0.5, 0],
  [0.2, 0.5, 0.1],
];
const ball = ballMesh(8, 12);
const sheet = sheetMesh();
const solids: Solid[] = [
  { name: 'plane', kind: 'plane', dials: {}, shape: planeShape },
  { name: 'box of 2 cm', kind: 'box', dials: { size: edges }, shape: boxShape(edges) },
  { name: 'ball', kind: 'sphere', dials: { radius: 0.4 }, shape: ballShape(0.4) },
  {
    name: 'capsule',
    kind: 'capsule',
    dials: { from: one, to: other, radius: 0.05 },
    shape: capsuleShape(one, other, 0.05),
  },
  {
    name: 'box with a gap',
    kind: 'box',
    dials: { size: edges, gap: 0.1 },
    shape: (p) => boxShape(edges)(p) - 0.1,
  },
  {
    name: 'room',
    kind: 'box',
    dials: { size: [3, 2, 2], side: 'inside' },
    shape: (p) => -boxShape([3, 2, 2])(p),
  },
  {
    name: 'bowl',
    kind: 'sphere',
    dials: { radius: 1, side: 'inside' },
    shape: (p) => -ballShape(1)(p),
  },
  { name: 'closed mesh', kind: 'mesh', dials: {}, shape: facesShape(ball), mesh: ball },
  {
    name: 'sheet',
    kind: 'mesh',
    dials: { thickness: 0.02 },
    mesh: sheet,
    shape: sheetShape(2, 0.01),
  },
];

interface Stand {
  name: string;
  centre: Vector;
  turn: Vector;
  /** Metres a second. */
  drift: Vector;
}

const still: Stand = { name: 'still', centre: [0, 0, 0], turn: [0, 0, 0], drift: [0, 0, 0] };
const stands: Stand[] = [
  still,
  { name: 'moved and turned', centre: [3, -2, 1], turn: [25, 70, -40], drift: [0, 0, 0] },
  { name: 'moving', centre: [-1, 2, 0.5], turn: [10, -30, 115], drift: [1.5, -2, 0.7] },
];

function withSolid(piece: Piece, { kind, dials }: Solid, stand: Stand): Piece {
  const part = makePart('colliders', kind, piece.colliders);
  filled(kindOf('colliders', kind).dials, part.dials);
  const centre = stand.centre.map((c, i) => {
    const v = stand.drift[i]!;
    if (v === 0) return c;
    const id = `drift${String(i)}`;
    const signal = { ...makePart('signals', 'keyframes', []), id };
    signal.dials.keys = [
      { at: 0, value: 0, ease: 'straight' },
      { at: 10, value: 10 * v },
    ];
    piece.signals.push(signal);
    return { feed: 'signal', signal: id, from: c, to: c + 1 };
  });
  Object.assign(part.dials, { centre, turn: stand.turn, friction: 0.2, bounce: 0.5, ...dials });
  if (kind === 'mesh') {
    part.dials.mesh = 'own';
    const source = { file: 'own.obj', hash: MESH };
    piece.stock.push({ id: 'own', name: 'Own', type: 'mesh', source });
  }
  piece.colliders.push(part);
  return piece;
}

/** Seconds until a way that begins at `from` comes to the shape; by steps that cannot pass it. */
function meets(shape: Shape, from: Vector, velocity: Vector, most: number): number | null {
  const speed = size(velocity);
  let t = 0;
  for (let i = 0; i < 40_000; i++) {
    const d = shape(add(from, velocity, t));
    if (d < 1e-8) return t;
    t += d / speed;
    if (t > most) return null;
  }
  return t;
}

/** A place of the surface, with the unit vector away from it. */
function spotOn(shape: Shape, next: () => number): { spot: Vector; normal: Vector } {
  for (;;) {
    const any = (): Vector => [next() * 2 - 1, next() * 2 - 1, next() * 2 - 1];
    // From a place that is allowed, straight at another; the first surface on the way.
    const from = times(any(), 2.5);
    if (shape(from) < 0.01) continue;
    const way = add(times(any(), 1.2), from, -1);
    const t = meets(shape, from, way, 3);
    if (t === null || !Number.isFinite(t)) continue;
    const spot = add(from, way, t - 1e-9);
    return { spot, normal: slope(shape, spot) };
  }
}

interface Flight extends Aim {
  /** Frame at which it has met the surface once, and where it then is and how fast, in the world. */
  frame: number;
  place: Vector;
  speed: Vector;
  way: number;
}

/** A particle that comes to the solid at an angle, and what physics says becomes of it. */
function flight(
  solid: Solid,
  stand: Stand,
  next: () => number,
  { angle, speed, rate }: { angle: number; speed: number; rate: number },
): Flight | null {
  const { spot, normal } = spotOn(solid.shape, next);
  const side = unit(cross(normal, [next() - 0.5, next() - 0.5, next() - 0.5]));
  const a = (angle * Math.PI) / 180;
  const own = add(times(normal, -speed * Math.sin(a)), side, speed * Math.cos(a));
  // As far before as there is room; a way within a room may be a part of a step.
  let before = (0.05 + 1.9 * next()) / rate;
  const free = (s: number): boolean => solid.shape(add(spot, own, -s)) > 1e-3;
  for (let i = 0; i < 24 && !free(before); i++) before *= 0.7;
  if (!free(before)) return null;
  const from = add(spot, own, -before);
  const hit = meets(solid.shape, from, own, before + 1);
  if (hit === null) return null;
  const at = add(from, own, hit - 1e-9 / speed);
  const up = slope(solid.shape, add(from, own, hit - 1e-6 / speed));
  const into = dot(own, up);
  const off = add(times(add(own, up, -into), 0.8), up, -0.5 * into);
  const frame = Math.ceil(hit * rate + 1e-3);
  const rest = frame / rate - hit;
  // What single precision cannot tell apart at that distance is not asked for.
  for (const way of [2e-7, -2e-7]) {
    const shifted = add(from, up, way * (speed * hit + 1));
    const again = meets(solid.shape, shifted, own, before + 1);
    const there = again && slope(solid.shape, add(shifted, own, again - 1e-6 / speed));
    if (!there || dot(there, up) < 1 - 1e-6) return null;
  }
  // Only the first bounce is held against the book.
  const clear = add(at, up, 2e-4);
  if (meets(solid.shape, clear, off, rest * 1.3) !== null) return null;
  // At the very edge of a face two answers are as good.
  const faces = solid.kind !== 'sphere' && solid.kind !== 'capsule';
  for (const way of [2e-3, -2e-3]) {
    if (faces && dot(slope(solid.shape, add(at, side, way)), up) < 0.9999) return null;
  }
  const world = (p: Vector, seconds: number): Vector =>
    add(add(turned(p, stand.turn), stand.centre), stand.drift, seconds);
  return {
    from: world(from, 0),
    velocity: add(turned(own, stand.turn), stand.drift),
    frame,
    place: world(add(at, off, rest), frame / rate),
    speed: add(turned(off, stand.turn), stand.drift),
    way: (speed * frame) / rate,
  };
}

const cases = solids.flatMap((solid) =>
  stands.map((stand) => [solid.name, stand.name, solid, stand] as const),
);

test.each(swept(cases, 0.5))(
  'the first bounce off a %s, %s, is right at any angle, speed and frame rate',
  (_, __, solid, stand) => {
    const next = generator(solid.name.length * 31 + stand.name.length);
    let count = 0;
    for (const rate of [24, 30, 60, 120]) {
      const flights: Flight[] = [];
      for (const angle of [0.5, 1, 3, 5, 8, 12, 20, 45, 90, 0.5 + 89 * next() ** 2]) {
        for (const speed of [0.3, 1, 3, 9, 20, 60, 200, 5000]) {
          const found = flight(solid, stand, next, { angle, speed, rate });
          if (found) flights.push(found);
        }
      }
      count += flights.length;
      const piece = withSolid(aimed(flights, rate), solid, stand);
      const files = new Map(solid.mesh ? [[MESH, solid.mesh]] : []);
      engine.setPlan(compilePiece(piece, { files }));
      engine.reset();
      const wrong: unknown[] = [];
      for (let frame = 1; frame <= Math.max(...flights.map((f) => f.frame)); frame++) {
        engine.step();
        const read = (names: string[]): Float32Array[] =>
          names.map((n) => engine.state('motes', n as 'px'));
        const [px, py, pz, vx, vy, vz] = read(['px', 'py', 'pz', 'vx', 'vy', 'vz']);
        flights.forEach((f, i) => {
          if (f.frame !== frame) return;
          const place: Vector = [px![i]!, py![i]!, pz![i]!];
          const speed: Vector = [vx![i]!, vy![i]!, vz![i]!];
          const off = size(add(place, f.place, -1));
          const turn = size(add(speed, f.speed, -1)) / size(f.velocity);
          if (off > Math.max(1e-3, 1e-3 * f.way) || turn > 0.01) {
            wrong.push({ rate, off, turn, way: f.way, velocity: f.velocity });
          }
        });
      }
      expect(wrong).toEqual([]);
    }
    expect(count).toBeGreaterThan(40);
  },
);

test('rain that the wind blows at a wall of 2 cm or a sheet does not get through', () => {
  const files = new Map([[MESH, sheet]]);
  const next = generator(5);
  const rain = Array.from({ length: 1000 }, (): Aim => {
    const from: Vector = [-0.5 - next(), 0.6 * next(), 1.4 * (next() - 0.5)];
    return { from: [from[0], from[1] + 3, from[2]], velocity: [1, -9, 0] };
  });
  const upright = { ...still, turn: [0, 0, 90] as Vector };
  const walls: [Solid, Stand][] = [
    [{ ...solids[1]!, dials: { size: [0.02, 40, 40], bounce: 0.2 } }, still],
    [{ ...solids[8]!, dials: { thickness: 0.02, size: 40, bounce: 0.2 } }, upright],
    [{ ...solids[8]!, dials: { thickness: 0, size: 40, bounce: 0.2 } }, upright],
  ];
  for (const [wall, stand] of walls) {
    for (const rate of [24, 30, 60]) {
      engine.setPlan(compilePiece(withSolid(aimed(rain, rate), wall, stand), { files }));
      engine.reset();
      for (let i = 0; i < 3 * rate; i++) engine.step();
      const x = Array.from(engine.state('motes', 'px'));
      expect(x.filter((v) => v > 0)).toEqual([]);
      // All have come to it by now, and have been thrown back.
      expect(x.filter((_, i) => engine.state('motes', 'vx')[i]! < 0)).toHaveLength(1000);
    }
  }
});

test('corners of several solids hold what is thrown into them, whatever their order', () => {
  const next = generator(9);
  const walls: Vector[] = [
    [0, 0, 0],
    [0, 0, 90],
    [90, 0, 0],
    [40, 0, 25],
  ];
  const list = Array.from({ length: 600 }, (_, i): Aim => {
    const from: Vector = [-1 - next(), 1 + next(), 1 + next()];
    const speed = [3, 40, 600][i % 3]!;
    return { from, velocity: times(unit(add([0.5, -0.6, -0.7], [next(), next(), next()])), speed) };
  });
  const inside = (turns: readonly Vector[]): number[] => {
    const piece = aimed(list, 30);
    for (const turn of turns) {
      withSolid(piece, solids[0]!, { ...still, turn });
    }
    engine.setPlan(compilePiece(piece));
    engine.reset();
    const wrong: number[] = [];
    for (let frame = 0; frame < 60; frame++) {
      engine.step();
      const [x, y, z] = ['px', 'py', 'pz'].map((n) => engine.state('motes', n as 'px'));
      list.forEach((_, i) => {
        const p: Vector = [x![i]!, y![i]!, z![i]!];
        if (turns.some((t) => dot(turned([0, 1, 0], t), p) < -1e-4 * (1 + size(p)))) wrong.push(i);
      });
    }
    return wrong;
  };
  expect(inside(walls)).toEqual([]);
  expect(inside([...walls].reverse())).toEqual([]);
});

test.each([30, 90, 150])('what lies in a valley of %d degrees is at rest, and says so', (angle) => {
  const lean = (180 - angle) / 2;
  const list = Array.from({ length: 50 }, (_, i): Aim => {
    return { from: [0.1 * Math.sin(i), 1, 0.1 * i], velocity: [0, 0, 0] };
  });
  const piece = aimed(list, 30);
  piece.forces = [makePart('forces', 'gravity', [])];
  for (const side of [1, -1]) {
    const dials = { ...solids[0]!.dials, friction: 0, bounce: 0.3 };
    withSolid(piece, { ...solids[0]!, dials }, { ...still, turn: [0, 0, side * lean] });
  }
  engine.setPlan(compilePiece(piece));
  engine.reset();
  for (let i = 0; i < 30 * 15; i++) engine.step();
  const [vx, vy, vz] = ['vx', 'vy', 'vz'].map((n) => engine.state('motes', n as 'vx'));
  const speeds = list.map((_, i) => Math.hypot(vx![i]!, vy![i]!, vz![i]!));
  expect(Math.max(...speeds)).toBeLessThan(1e-3);
});

test.each([0.5, 5, 12, 45])('friction and bounce at %d degrees, with what pulls', (angle) => {
  // A plane turned about z; the way, a parabola, is cut in double precision.
  const [a, speed, fall] = [(angle * Math.PI) / 180, 20, 9.81];
  for (const rate of [24, 60, 120]) {
    const way: Vector = [speed * Math.cos(a), -speed * Math.sin(a), 0];
    const seconds = 1.4 / rate;
    const start: Vector = [0, -way[1] * seconds + (fall / 2) * seconds ** 2, 0];
    const piece = aimed([{ from: start, velocity: way }], rate);
    piece.forces = [makePart('forces', 'gravity', [])];
    withSolid(piece, solids[0]!, still);
    engine.setPlan(compilePiece(piece));
    engine.reset();
    for (let i = 0; i < 2; i++) engine.step();
    const rest = 2 / rate - seconds;
    const up = -0.5 * (way[1] - fall * seconds);
    const [vx, vy, px, py] = ['vx', 'vy', 'px', 'py'].map(
      (n) => engine.state('motes', n as 'px')[0]!,
    );
    const tolerance = 0.01 * speed;
    expect(Math.abs(vx! - 0.8 * way[0])).toBeLessThan(tolerance);
    if (up - fall * rest > 0) {
      expect(Math.abs(vy! - (up - fall * rest))).toBeLessThan(tolerance);
      expect(Math.abs(py! - (up * rest - (fall / 2) * rest ** 2))).toBeLessThan(1e-3);
    }
    expect(Math.abs(px! - (way[0] * seconds + 0.8 * way[0] * rest))).toBeLessThan(1e-3 * speed);
  }
});

test('a wall that turns throws what flies into it as its own speed there says', () => {
  // A box of 10 cm that turns about z; met in double precision by small steps of time.
  const spin = 90;
  const shape = boxShape([4, 0.1, 4]);
  const list = Array.from({ length: 40 }, (_, i): Aim => {
    return { from: [0.3 + 0.03 * i, 1.5 + 0.02 * i, 0], velocity: [0, -4 - i, 0] };
  });
  for (const rate of [24, 60]) {
    const piece = aimed(list, rate);
    withSolid(piece, { ...solids[1]!, dials: { size: [4, 0.1, 4], friction: 0 } }, still);
    const signal = { ...makePart('signals', 'keyframes', []), id: 'spin' };
    signal.dials.keys = [
      { at: 0, value: 0, ease: 'straight' },
      { at: 4, value: 4 * spin },
    ];
    piece.signals.push(signal);
    piece.colliders[0]!.dials.turn = [0, 0, { feed: 'signal', signal: 'spin', from: 0, to: 1 }];
    engine.setPlan(compilePiece(piece));
    engine.reset();
    const at = (a: Aim, t: number): Vector =>
      turned(add(a.from, a.velocity, t), [0, 0, spin * t], true);
    const expected = list.map((a) => {
      let t = 0;
      while (shape(at(a, t)) > 1e-6) t += Math.max(1e-7, shape(at(a, t)) / 60);
      const normal = turned(slope(shape, at(a, t)), [0, 0, spin * t]);
      const place = add(a.from, a.velocity, t);
      const wall = cross([0, 0, (spin * Math.PI) / 180], place);
      const into = dot(add(a.velocity, wall, -1), normal);
      return { t, speed: add(a.velocity, normal, -1.5 * into) };
    });
    const wrong: unknown[] = [];
    for (let frame = 1; frame <= rate; frame++) {
      engine.step();
      expected.forEach(({ t, speed }, i) => {
        if (Math.ceil(t * rate) !== frame) return;
        const v = ['vx', 'vy', 'vz'].map((n) => engine.state('motes', n as 'vx')[i]!) as Vector;
        const turn = size(add(v, speed, -1)) / size(list[i]!.velocity);
        if (turn > 0.01) wrong.push({ rate, i, turn });
      });
    }
    expect(wrong).toEqual([]);
  }
});

test.each(solids.filter(({ name }) => ['room', 'bowl', 'closed mesh'].includes(name)))(
  'nothing gets out of a $name, however long and fast it flies in it while it turns and moves',
  (solid) => {
    const next = generator(3);
    const any = (): Vector => [next() - 0.5, next() - 0.5, next() - 0.5];
    const list = Array.from({ length: 400 }, (_, i): Aim => {
      return { from: times(any(), 0.4), velocity: times(any(), [3, 60, 900, 9000][i % 4]!) };
    });
    for (const bounce of [1, 0.5]) {
      const piece = aimed(list, 30);
      piece.forces = [makePart('forces', 'gravity', [])];
      const dials = { ...solid.dials, side: 'inside', bounce, friction: 0 };
      const drift: Vector = [0.7, -1.1, 0.3];
      withSolid(piece, { ...solid, dials }, { ...still, turn: [20, 0, 0], drift });
      const turn = { ...makePart('signals', 'keyframes', []), id: 'turning' };
      turn.dials.keys = [
        { at: 0, value: 0, ease: 'straight' },
        { at: 10, value: 500 },
      ];
      piece.signals.push(turn);
      const feed = { feed: 'signal' as const, signal: 'turning', from: 0, to: 1 };
      piece.colliders[0]!.dials.turn = [20, 0, feed];
      const files = new Map(solid.mesh ? [[MESH, solid.mesh]] : []);
      engine.setPlan(compilePiece(piece, { files }));
      engine.reset();
      // Of a mesh particles are inside where they are not outside.
      const sign = solid.mesh ? -1 : 1;
      let worst = 0;
      for (let frame = 1; frame <= 120; frame++) {
        engine.step();
        const t = frame / 30;
        const [x, y, z] = ['px', 'py', 'pz'].map((n) => engine.state('motes', n as 'px'));
        list.forEach((_, i) => {
          const p = add([x![i]!, y![i]!, z![i]!], drift, -t);
          worst = Math.min(worst, sign * solid.shape(turned(p, [20, 0, 50 * t], true)));
        });
      }
      expect(worst).toBeGreaterThan(-2e-4);
    }
  },
);
