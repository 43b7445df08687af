import { compilePiece, Scene } from '@vast-swarm/core/plan';
import { makeChoice, makePart, type Piece } from '@vast-swarm/core/piece';
import type { DialValues } from '@vast-swarm/core/kinds';
import type { Motion } from '@vast-swarm/core/stock';
import type { Vector } from '@vast-swarm/core/feeds';
import { CpuEngine } from '../src';
import { smallPiece } from '../../../tests/support/pieces';
import { chiSquare } from './flight';

/** Births from somebody whose joints move by closed forms: where, how fast, and for how long they stay. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

const HASH = 'eeeeeeeeeeeeeeee';
/** 99.9 % of fair draws into 16 bins stay below. */
const FAIR = 37.7;

type At = (second: number) => Vector[];

/** A chain of joints a, b, c and so on, each hung on the one before it, with samples a hundredth of a second apart. */
function motionOf(at: At, seconds = 4): Motion {
  const count = Math.round(100 * seconds) + 1;
  const joints = at(0).map((_, i) => ({ name: String.fromCharCode(97 + i), parent: i - 1 }));
  const places = new Float32Array(3 * joints.length * count);
  for (let k = 0; k < count; k++) places.set(at(k / 100).flat(), 3 * joints.length * k);
  const times = Float64Array.from({ length: count }, (_, k) => k / 100);
  return { type: 'motion', times, performers: [{ name: 'Cy', joints, places }] };
}

interface Given {
  emitter?: DialValues;
  performer?: DialValues;
  swarm?: DialValues;
  rate?: number;
  change?: (piece: Piece) => void;
}

function pieceOf({ emitter, performer, swarm, rate = 30, change }: Given): Piece {
  return smallPiece((p) => {
    p.frame.rate = rate;
    p.frame.length = 10 * rate;
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
      ...performer,
    });
    p.forces = [];
    const born = p.swarms[0]!;
    born.emitter = makeChoice('emitters', 'joints');
    Object.assign(born.emitter.dials, { performer: 'cy', share: 0, ...emitter });
    born.launch = makeChoice('launches', 'normal');
    born.launch.dials.speed = 0;
    Object.assign(born.dials, { rate: 0, burst: 20_000, lifetime: 100, ...swarm });
    change?.(p);
  });
}

function play(at: At, frames: number, given: Given, seconds = 4): void {
  const files = new Map([[HASH, motionOf(at, seconds)]]);
  engine.setPlan(compilePiece(pieceOf(given), { files }));
  engine.reset();
  for (let i = 0; i < frames; i++) engine.step();
}

function places(names: [string, string, string] = ['px', 'py', 'pz']): Vector[] {
  const count = Math.min(engine.born('motes'), engine.state('motes', 'px').length);
  const [x, y, z] = names.map((n) => engine.state('motes', n));
  return Array.from({ length: count }, (_, i) => [x![i]!, y![i]!, z![i]!]);
}

const far = (a: Vector, b: Vector): number => Math.hypot(...a.map((v, i) => v - b[i]!));
const STILL: At = () => [
  [0, 0, 0],
  [0, 2, 0],
  [1, 2, 0],
  [1, 2, -0.5],
];

test('along bones births are even by length', () => {
  play(STILL, 1, { emitter: { from: 'bones' } });
  const along = places().map(([x, y, z]) => {
    expect(Math.min(Math.hypot(x, z), Math.hypot(y - 2, z), Math.hypot(x - 1, y - 2))).toBeLessThan(
      1e-6,
    );
    if (z < -1e-9) return (3 - z) / 3.5;
    return (x > 1e-9 ? 2 + x : y) / 3.5;
  });
  expect(along).toHaveLength(20_000);
  expect(chiSquare(along)).toBeLessThan(FAIR);
});

test('of chosen joints come places, of chosen ends bones', () => {
  play(STILL, 1, { emitter: { from: 'joints', joints: ['b', 'd'] } });
  const counts = [STILL(0)[1]!, STILL(0)[3]!].map(
    (joint) => places().filter((p) => far(p, joint) < 1e-6).length,
  );
  expect(counts[0]! + counts[1]!).toBe(20_000);
  expect(Math.abs(counts[0]! - 10_000)).toBeLessThan(350);
  play(STILL, 1, { emitter: { from: 'bones', joints: ['b', 'c'] } });
  expect(places().every(([x, y, z]) => Math.abs(y - 2) < 1e-6 && z === 0 && x >= 0 && x <= 1)).toBe(
    true,
  );
  play(STILL, 1, { emitter: { from: 'joints', joints: ['nobody'] } });
  expect(engine.alive().get('motes')).toBe(0);
});

test.each([0.3, 1, 2.5])('over the body births are even by area, %f as thick', (girth) => {
  const slant: At = () => [
    [0.2, 0.1, -0.3],
    [1.1, 1.3, 0.7],
  ];
  play(slant, 1, { emitter: { from: 'surface', girth }, performer: { thickness: 0.8 } });
  const [a, b] = slant(0) as [Vector, Vector];
  const length = far(a, b);
  const way = b.map((v, i) => (v - a[i]!) / length);
  const plan = places();
  const radius =
    new Scene(
      pieceOf({ performer: { thickness: 0.8 } }),
      new Map([[HASH, motionOf(slant)]]),
    ).performer('cy')!.bones[0]!.radius * girth;
  expect(radius).toBeGreaterThan(0.01);
  const high = plan.map((p) => p.reduce((sum, v, i) => sum + (v - a[i]!) * way[i]!, 0));
  const off = plan.map((p, i) => {
    const within = Math.min(length, Math.max(0, high[i]!));
    const nearest = a.map((v, k) => v + way[k]! * within) as Vector;
    return Math.abs(far(p, nearest) - radius);
  });
  expect(Math.max(...off)).toBeLessThan(1e-5);
  expect(chiSquare(high.map((h) => (h + radius) / (length + 2 * radius)))).toBeLessThan(FAIR);
  // Round it too: by the angle about the axis.
  const right = [way[1]!, -way[0]!, 0].map((v) => v / Math.hypot(way[0]!, way[1]!));
  const front = [0, 1, 2].map(
    (k) => way[(k + 1) % 3]! * right[(k + 2) % 3]! - way[(k + 2) % 3]! * right[(k + 1) % 3]!,
  );
  const angles = plan.map((p) => {
    const dot = (v: readonly number[]): number =>
      p.reduce((sum, q, k) => sum + (q - a[k]!) * v[k]!, 0);
    return Math.atan2(dot(front), dot(right)) / (2 * Math.PI) + 0.5;
  });
  expect(chiSquare(angles)).toBeLessThan(FAIR);
});

test('bones are as thick as is said of them, and births as many as they have area', () => {
  const radii = [
    { joint: 'b', radius: 0.4 },
    { joint: 'nobody', radius: 3 },
  ];
  const performer = { radii, thickness: 0.5 } as unknown as DialValues;
  play(STILL, 1, { emitter: { from: 'surface' }, performer });
  const files = new Map([[HASH, motionOf(STILL)]]);
  const { bones } = new Scene(pieceOf({ performer }), files).performer('cy')!;
  const plain = new Scene(pieceOf({}), files).performer('cy')!.bones;
  expect(bones.map((b) => b.radius)).toEqual([0.2, plain[1]!.radius / 2, plain[2]!.radius / 2]);
  const area = bones.map(({ radius, length }) => 2 * Math.PI * radius * (length + 2 * radius));
  const share = area[0]! / (area[0]! + area[1]! + area[2]!);
  const onFirst = places().filter(([x, y, z]) => {
    const within = Math.min(2, Math.max(0, y));
    return Math.abs(far([x, y, z], [0, within, 0]) - 0.2) < 1e-5;
  });
  expect(Math.abs(onFirst.length / 20_000 - share)).toBeLessThan(0.012);
});

/** A joint that goes round, and one that swings above it. */
const ROUND: At = (t) => [
  [Math.cos(2 * t), 0, Math.sin(2 * t)],
  [Math.cos(2 * t), 1 + 0.5 * Math.sin(5 * t), Math.sin(2 * t)],
];

test.each([24, 30, 60])(
  'at %d frames a second what is bound is at its joint at every frame',
  (rate) => {
    const files = new Map([[HASH, motionOf(ROUND)]]);
    const piece = pieceOf({
      rate,
      emitter: { from: 'joints', joints: ['b'], stays: 'bound' },
      swarm: { rate: 50, burst: 4 },
    });
    engine.setPlan(compilePiece(piece, { files }));
    engine.reset();
    const performing = new Scene(piece, files).performer('cy')!;
    for (let frame = 0; frame < 2 * rate; frame++) {
      engine.step();
      const joint = [...performing.at((frame + 1) / rate).subarray(3, 6)] as Vector;
      // The motion itself is straight between samples a hundredth of a second apart.
      expect(far(joint, ROUND((frame + 1) / rate)[1]!)).toBeLessThan(2e-4);
      const apart = places().map((p) => far(p, joint));
      expect(apart.length).toBeGreaterThan(3);
      expect(Math.max(...apart)).toBeLessThan(1e-6);
    }
  },
);

test('births are spread over the way that the joint goes in a frame, and take its velocity along', () => {
  const straight: At = (t) => [
    [3 * t, 0, 0],
    [3 * t, 1, 0],
  ];
  play(straight, 10, {
    emitter: { from: 'joints', joints: ['a'] },
    swarm: { rate: 600, burst: 0, when: 'steadily' },
  });
  const xs = places()
    .map(([x]) => x)
    .sort((a, b) => a - b);
  expect(xs.length).toBe(200);
  // 600 a second at 3 m/s: one every 5 mm, also where one frame ends and the next begins.
  xs.slice(1).forEach((x, i) => {
    expect(Math.abs(x - xs[i]! - 0.005)).toBeLessThan(1e-5);
  });
  play(straight, 3, { emitter: { from: 'joints', share: 0.5 } });
  for (const v of places(['vx', 'vy', 'vz'])) expect(far(v, [1.5, 0, 0])).toBeLessThan(1e-5);
});

test('where a motion begins again nothing is born on the way back, and nothing is thrown', () => {
  const straight: At = (t) => [
    [3 * t, 0, 0],
    [3 * t, 1, 0],
  ];
  play(
    straight,
    75,
    {
      emitter: { from: 'joints', joints: ['a'], share: 1 },
      swarm: { rate: 600, burst: 0, lifetime: 0.02 },
    },
    1,
  );
  // Two and a half rounds: those that live still were born in the last frame.
  const alive = places(['vx', 'vy', 'vz']);
  for (const [x] of alive) expect(x).toBeLessThan(3.01);
  for (const frames of [30, 31, 60, 61]) {
    play(
      straight,
      frames,
      { emitter: { from: 'joints', joints: ['a'], share: 1 }, swarm: { rate: 600, burst: 0 } },
      1,
    );
    for (const [x] of places(['vx', 'vy', 'vz'])) expect(Math.abs(x - 1.5)).toBeLessThan(1.501);
    for (const [x] of places()) expect(x).toBeGreaterThan(-1e-6);
  }
});

test('height, place, turn and floor put a performer where they are wanted', () => {
  const tall: At = () => [
    [0, 10, 0],
    [0, 180, 20],
  ];
  const of = (dials: DialValues): Vector[] => {
    const scene = new Scene(pieceOf({ performer: dials }), new Map([[HASH, motionOf(tall)]]));
    const at = scene.performer('cy')!.at(0);
    return [0, 3].map((i) => [...at.subarray(i, i + 3)] as Vector);
  };
  const close = (found: Vector[], exact: Vector[]): void => {
    found.forEach((p, i) => {
      expect(far(p, exact[i]!)).toBeLessThan(1e-5);
    });
  };
  close(of({}), tall(0));
  close(of({ tall: 1.7, floor: 'lowest' }), [
    [0, 0, 0],
    [0, 1.7, 0.2],
  ]);
  close(of({ tall: 1.7, floor: 'lowest', across: 2, above: -1, towards: 3, facing: 90 }), [
    [2, -1, 3],
    [2.2, 0.7, 3],
  ]);
  close(of({ up: 'z', tall: 0, floor: 'file' }), [
    [0, 0, -10],
    [0, 20, -180],
  ]);
});

test.each([
  ['x', {}, (t: number) => Math.cos(2 * t)],
  ['y', {}, (t: number) => 1 + 0.5 * Math.sin(5 * t)],
  ['z', {}, (t: number) => Math.sin(2 * t)],
  ['apart', { other: ['a'] }, (t: number) => 1 + 0.5 * Math.sin(5 * t)],
  ['speed', {}, (t: number) => Math.hypot(2, 2.5 * Math.cos(5 * t))],
] as const)('the signal of a joint: %s', (measure, dials, exact) => {
  const piece = pieceOf({
    change: (p) => {
      p.signals = [makePart('signals', 'joint', [])];
      Object.assign(p.signals[0]!.dials, {
        performer: 'cy',
        joint: ['b'],
        measure,
        from: -4,
        to: 4,
        low: -4,
        high: 4,
        ...dials,
      });
    },
  });
  const scene = new Scene(piece, new Map([[HASH, motionOf(ROUND)]]));
  const { id } = piece.signals[0]!;
  for (let t = 0.1; t < 3.8; t += 0.0137) {
    expect(Math.abs(scene.signal(id, t) - exact(t))).toBeLessThan(
      measure === 'speed' ? 0.03 : 3e-4,
    );
  }
  expect(new Scene({ ...piece, performers: [] }, new Map()).signal(id, 1)).toBe(0);
});

test('a stale motion is told by its key: another place of a performer is another motion', () => {
  const key = (dials: DialValues): string => {
    const files = new Map([[HASH, motionOf(ROUND)]]);
    return compilePiece(pieceOf({ performer: dials }), { files }).swarms[0]!.motionKey;
  };
  expect(key({ across: 1 })).not.toBe(key({}));
  expect(key({})).toBe(key({}));
});

test.each([
  ['all', [], [0, 1]],
  ['chosen', ['a'], [0]],
] as const)(
  'attraction goes to the nearest of %s joints, as they are in the middle of the step',
  (_, joints, which) => {
    const files = new Map([[HASH, motionOf(ROUND)]]);
    const piece = pieceOf({
      swarm: { burst: 400, lifetime: 100 },
      change: (p) => {
        p.swarms[0]!.emitter = makeChoice('emitters', 'sphere');
        p.swarms[0]!.emitter.dials.radius = 2;
        p.forces = [makePart('forces', 'attraction', [])];
        Object.assign(p.forces[0]!.dials, {
          to: 'joints',
          performer: 'cy',
          joints: [...joints],
          strength: 3,
          arrive: 0.001,
          falloff: 0,
          radius: 1000,
        });
      },
    });
    engine.setPlan(compilePiece(piece, { files }));
    engine.reset();
    engine.step();
    const before = [places(), places(['vx', 'vy', 'vz'])] as const;
    engine.step();
    const after = places(['vx', 'vy', 'vz']);
    const [from, to] = [ROUND(1 / 30), ROUND(2 / 30)];
    const middle = from.map((p, i) => p.map((v, k) => (v + to[i]![k]!) / 2) as Vector);
    let apart = 0;
    before[0].forEach((p, i) => {
      const ways = which.map((j) => middle[j]!.map((v, k) => v - p[k]!) as Vector);
      const way = ways.reduce((a, b) => (Math.hypot(...b) < Math.hypot(...a) ? b : a));
      const pull = after[i]!.map((v, k) => (v - before[1][i]![k]!) * 30) as Vector;
      const cos =
        pull.reduce((sum, v, k) => sum + v * way[k]!, 0) / Math.hypot(...pull) / Math.hypot(...way);
      apart = Math.max(apart, Math.hypot(...way) > 0.2 ? 1 - cos : 0);
      if (Math.hypot(...way) > 0.2) expect(Math.hypot(...pull)).toBeCloseTo(3, 1);
    });
    expect(before[0]).toHaveLength(400);
    // Where both are equally far, or the particle has moved on, a little to the side.
    expect(apart).toBeLessThan(0.02);
  },
);
