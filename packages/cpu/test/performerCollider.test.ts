import { compilePiece, Scene } from '@vast-swarm/core/plan';
import { makeChoice, makePart, type Piece } from '@vast-swarm/core/piece';
import type { DialValues } from '@vast-swarm/core/kinds';
import type { Motion, Performing } from '@vast-swarm/core/stock';
import type { Vector } from '@vast-swarm/core/feeds';
import { CpuEngine } from '../src';
import { smallPiece } from '../../../tests/support/pieces';
import { swept } from '../../../tests/support/sweep';

/** A body of capsules that move: nothing gets through them, and they strike as a capsule does. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

const HASH = 'ffffffffffffffff';
type At = (second: number) => [Vector, Vector];

/** One bone, sampled so finely that it is as good as smooth. */
function boneOf(at: At, seconds: number): Motion {
  const count = Math.round(480 * seconds) + 1;
  const places = new Float32Array(6 * count);
  for (let k = 0; k < count; k++) places.set(at(k / 480).flat(), 6 * k);
  const joints = [
    { name: 'a', parent: -1 },
    { name: 'b', parent: 0 },
  ];
  const times = Float64Array.from({ length: count }, (_, k) => k / 480);
  return { type: 'motion', times, performers: [{ name: 'Cy', joints, places }] };
}

function pieceOf(change: (p: Piece) => void, collider: DialValues = {}, kind = 'performer'): Piece {
  return smallPiece((p) => {
    p.frame.length = 600;
    p.stock.push({
      id: 'moves',
      name: 'Moves',
      type: 'motion',
      source: { file: 'a.bvh', hash: HASH },
    });
    p.performers = [{ ...makePart('performers', 'played', []), id: 'cy' }];
    Object.assign(p.performers[0]!.dials, {
      motion: 'moves',
      tall: 0,
      floor: 'file',
      ends: 'hold',
    });
    p.colliders = [makePart('colliders', kind, [])];
    Object.assign(p.colliders[0]!.dials, {
      ...(kind === 'performer' ? { performer: 'cy' } : {}),
      bounce: 0.5,
      friction: 0.2,
      ...collider,
    });
    p.forces = [];
    const swarm = p.swarms[0]!;
    swarm.emitter = makeChoice('emitters', 'sphere');
    swarm.launch = makeChoice('launches', 'cone');
    Object.assign(swarm.dials, { rate: 0, burst: 3000, lifetime: 100 });
    change(p);
  });
}

function begin(piece: Piece, motion: Motion): Performing {
  const files = new Map([[HASH, motion]]);
  engine.setPlan(compilePiece(piece, { files }));
  engine.reset();
  return new Scene(piece, files).performer('cy')!;
}

function vectors(...names: string[]): number[][] {
  const all = names.map((n) => engine.state('motes', n));
  const age = engine.state('motes', 'age');
  const life = engine.state('motes', 'life');
  return [...Array(engine.born('motes')).keys()]
    .filter((i) => age[i]! >= 0 && age[i]! < life[i]!)
    .map((i) => all.map((a) => a[i]!));
}
const places = (): Vector[] => vectors('px', 'py', 'pz') as Vector[];

/** Metres from the nearest capsule of a performer at a second, below 0 inside. */
function above({ bones, at }: Performing, p: Vector, second: number): number {
  const joints = at(second);
  const joint = (i: number): number[] => [...joints.subarray(3 * i, 3 * i + 3)];
  return Math.min(
    ...bones.map(({ from, to, radius }) => {
      const [a, b] = [joint(from), joint(to)];
      const way = b.map((v, k) => v - a[k]!);
      const square = way.reduce((s, v) => s + v * v, 0);
      const t = p.reduce((s, v, k) => s + (v - a[k]!) * way[k]!, 0) / Math.max(square, 1e-12);
      const on = Math.min(1, Math.max(0, t));
      return Math.hypot(...p.map((v, k) => v - a[k]! - way[k]! * on)) - radius;
    }),
  );
}

const SLANT: [Vector, Vector] = [
  [0.1, -0.6, -0.2],
  [0.4, 0.6, 0.2],
];

test.each([0.5, 3, 20])('a bone at rest is a capsule: thrown at %f m/s', (speed) => {
  const throwAt = (p: Piece): void => {
    Object.assign(p.swarms[0]!.emitter.dials, { radius: 0.5, centre: [-2, 0, 0], fill: 'inside' });
    Object.assign(p.swarms[0]!.launch.dials, { speed, direction: [1, 0.1, 0.05], angle: 0 });
  };
  const frames = Math.ceil((4 / speed) * 30);
  const states = (): Float32Array[] =>
    ['px', 'py', 'pz', 'vx', 'vy', 'vz'].map((n) => engine.state('motes', n).slice(0, 3000));
  const performing = begin(
    pieceOf(throwAt),
    boneOf(() => SLANT, 0.1),
  );
  const { radius } = performing.bones[0]!;
  for (let i = 0; i < frames; i++) engine.step();
  const found = states();
  const [from, to] = SLANT;
  begin(
    pieceOf(throwAt, { from, to, radius }, 'capsule'),
    boneOf(() => SLANT, 0.1),
  );
  for (let i = 0; i < frames; i++) engine.step();
  const struck = found[4]!.filter((v) => Math.abs(v - found[4]![0]!) > 1e-3).length;
  expect(struck).toBeGreaterThan(100);
  const wrong = states().map(
    (values, k) =>
      values.filter((v, i) => Math.abs(v - found[k]![i]!) > 1e-3 * Math.max(1, speed)).length,
  );
  // Whether the outermost are grazed hangs on the last bit.
  expect(Math.max(...wrong)).toBeLessThanOrEqual(3);
});

test.each([1.4, 6, 20])(
  'what stands in the way of a bone at %f m/s is pushed along, and never passed',
  (speed) => {
    const at: At = (t) => [
      [speed * t - 1, -1, 0],
      [speed * t - 1, 1, 0],
    ];
    const seconds = 2.5 / speed;
    const performing = begin(
      pieceOf((p) => {
        p.swarms[0]!.emitter = makeChoice('emitters', 'box');
        Object.assign(p.swarms[0]!.emitter.dials, { size: [0.8, 1.2, 0.02] });
        p.swarms[0]!.launch.dials.speed = 0;
      }),
      boneOf(at, seconds),
    );
    const frames = Math.floor(seconds * 30);
    for (let frame = 0; frame < frames; frame++) {
      engine.step();
      const second = (frame + 1) / 30;
      const low = Math.min(...places().map((p) => above(performing, p, second)));
      expect(low).toBeGreaterThan(-1e-4);
    }
    // All were before it and near its middle: none is behind it now.
    const front = at(frames / 30)[0][0];
    expect(front).toBeGreaterThan(0.5);
    for (const [x] of places()) expect(x).toBeGreaterThan(front);
  },
);

test.each([1, 2.3])('a bone that whirls at %f turns a second strikes all in its way', (turns) => {
  const at: At = (t) => [
    [0, 0, 0],
    [1.2 * Math.cos(2 * Math.PI * turns * t), 1.2 * Math.sin(2 * Math.PI * turns * t), 0],
  ];
  const performing = begin(
    pieceOf((p) => {
      p.swarms[0]!.emitter = makeChoice('emitters', 'rectangle');
      Object.assign(p.swarms[0]!.emitter.dials, { width: 1.4, depth: 1.4, turn: [90, 0, 0] });
      p.swarms[0]!.launch.dials.speed = 0;
    }),
    boneOf(at, 1),
  );
  for (let frame = 0; frame < 30; frame++) {
    engine.step();
    const second = (frame + 1) / 30;
    const deep = places().filter((p) => above(performing, p, second) < -2e-3);
    expect(deep).toEqual([]);
  }
  // Nothing within its reach stands as it stood.
  const still = vectors('px', 'py', 'vx', 'vy').filter(
    ([x, y, vx, vy]) => Math.hypot(x!, y!) < 1.1 && Math.hypot(vx!, vy!) < 1e-6,
  );
  expect(still).toEqual([]);
});

test.each(swept([[4], [20]], 0.3))(
  'two who dance are met by a rain at %f m/s: nothing is in them at the end of a frame',
  (speed) => {
    const piece = pieceOf((p) => {
      p.performers[0]!.dials = {
        ...p.performers[0]!.dials,
        motion: 'pierDancers',
        tall: 1.75,
        floor: 'lowest',
        ends: 'loop',
      };
      p.swarms[0]!.emitter = makeChoice('emitters', 'box');
      Object.assign(p.swarms[0]!.emitter.dials, { size: [3, 0.5, 2], centre: [0, 3, 0] });
      Object.assign(p.swarms[0]!.launch.dials, { speed, direction: [0, -1, 0], angle: 4 });
      Object.assign(p.swarms[0]!.dials, { rate: 4000, burst: 0, lifetime: 2 });
    });
    const performing = begin(
      piece,
      boneOf(() => SLANT, 0.1),
    );
    let [all, deep, struck] = [0, 0, 0];
    for (let frame = 0; frame < 60; frame++) {
      engine.step();
      if (frame % 3 > 0) continue;
      const found = places().map((p) => above(performing, p, (frame + 1) / 30));
      all += found.length;
      deep += found.filter((d) => d < -2e-3).length;
      struck += vectors('vx', 'vy', 'vz').filter((v) => v[1]! > -0.7 * speed).length;
    }
    expect(all).toBeGreaterThan(20_000);
    expect(struck).toBeGreaterThan(500);
    expect(deep / all).toBeLessThan(2e-4);
  },
);

test('as a zone all that is in the body dies, and nothing beside it', () => {
  const piece = pieceOf(
    (p) => {
      Object.assign(p.swarms[0]!.emitter.dials, { radius: 0.5, fill: 'inside' });
      p.swarms[0]!.launch.dials.speed = 0;
    },
    { acts: 'zone', side: 'inside', does: 'die', girth: 1.5 },
  );
  const performing = begin(
    piece,
    boneOf(() => SLANT, 0.1),
  );
  const thick = {
    ...performing,
    bones: performing.bones.map((b) => ({ ...b, radius: 1.5 * b.radius })),
  };
  engine.step();
  engine.step();
  const left = places();
  expect(left.length).toBeLessThan(2990);
  expect(left.length).toBeGreaterThan(2000);
  for (const p of left) expect(above(thick, p, 0)).toBeGreaterThan(-1e-5);
});
