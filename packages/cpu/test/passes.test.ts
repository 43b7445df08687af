import { compilePiece, FRAME_PASSES, timeOf, type Plan } from '@vast-swarm/core/plan';
import { makeChoice, makePart, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import type { CameraPose, DialValues } from '@vast-swarm/core/kinds';
import type { Vector } from '@vast-swarm/core/feeds';
import { smallPiece } from '../../../tests/support/pieces';
import { CpuEngine } from '../src';
import { aimed, type Aim } from './aimed';
import { add, dot, turned } from './shapes';

/** Layers beside the picture, against closed forms and against frames that are drawn without them. */

const [WIDTH, HEIGHT] = [121, 68];

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

interface Drawn {
  plan: Plan;
  pixels: Uint8ClampedArray;
  light: Float32Array[];
  layer: (name: string) => Float32Array;
}

function drawn(piece: Piece, frame: number, passes = true, clear = false): Drawn {
  const plan = compilePiece(piece, { light: true, clear, passes: passes ? FRAME_PASSES : [] });
  engine.setPlan(plan);
  engine.reset();
  while (engine.frame < frame) engine.step();
  const { pixels } = engine.draw(WIDTH, HEIGHT);
  const { planes } = engine.light(WIDTH, HEIGHT);
  const found = new Map(engine.layers.channels.map(({ name, values }) => [name, values]));
  return { plan, pixels, light: planes, layer: (name) => found.get(name)! };
}

/** A piece of particles that are shown as one body, before a camera that turns and shakes. */
function shownAs(kind: string, dials: DialValues, aims: readonly Aim[], rate: number): Piece {
  const piece = aimed(aims, rate);
  const swarm = piece.swarms[0]!;
  Object.assign(swarm.dials, { size: 0.6, opacity: 1 });
  swarm.bodies = [makePart('bodies', kind, [])];
  Object.assign(swarm.bodies[0]!.dials, dials);
  piece.finish = [];
  return piece;
}

/** Pixels from the left and the bottom, and metres along the view. */
function seenAt(pose: CameraPose, p: Vector): Vector {
  const from = add(p, pose.eye, -1);
  const z = dot(from, pose.forward);
  const zoom = (pose.focal * HEIGHT) / (pose.perspective ? z : 1);
  return [WIDTH / 2 + dot(from, pose.right) * zoom, HEIGHT / 2 + dot(from, pose.up) * zoom, z];
}

const pixelOf = ([x, y]: Vector): number => Math.floor(HEIGHT - y) * WIDTH + Math.floor(x);

describe('depth', () => {
  test.each([
    ['perspective', [0, 0, 0]],
    ['perspective', [25, 40, 0]],
    ['perspective', [-60, 10, 30]],
    ['orthographic', [35, -50, 5]],
  ] as [string, Vector][])('of a wall is that of its plane (%s, %j)', (camera, stand) => {
    const dials = { mode: 'opaque', wide: 1, high: 1, deep: 0.001, stand };
    const piece = shownAs('mesh', dials, [{ from: [0.2, 0.1, 0], velocity: [0, 0, 0] }], 30);
    piece.swarms[0]!.dials.size = 3;
    piece.camera = makeChoice('cameras', camera);
    const { plan, layer } = drawn(piece, 2);
    const pose = plan.camera(timeOf(3, 30));
    const depth = layer('Z');
    const normal = turned([0, 0, 1], stand);
    const centre: Vector = [0.2, 0.1, 0];
    let covered = 0;
    for (let i = 0; i < depth.length; i++) {
      if (depth[i]! > 1e8) continue;
      covered += 1;
      const [x, y] = [(i % WIDTH) + 0.5 - WIDTH / 2, HEIGHT / 2 - Math.floor(i / WIDTH) - 0.5];
      const scale = pose.focal * HEIGHT;
      const aside = add([pose.right[0] * x, pose.right[1] * x, pose.right[2] * x], pose.up, y).map(
        (v) => v / scale,
      ) as Vector;
      const [from, way] = pose.perspective
        ? [pose.eye, add(aside, pose.forward)]
        : [add(pose.eye, aside), pose.forward];
      const exact = dot(add(centre, from, -1), normal) / dot(way, normal);
      // The wall is 3 mm thick.
      expect(Math.abs(depth[i]! - exact)).toBeLessThan(0.005);
    }
    expect(covered).toBeGreaterThan(100);
  });

  test('is that of what is nearest, and beyond all things where nothing is', () => {
    const aims: Aim[] = [
      { from: [0, 0, 0], velocity: [0, 0, 0] },
      { from: [0, 0, -2], velocity: [0, 0, 0] },
    ];
    const { plan, layer } = drawn(shownAs('disc', { hardness: 1 }, aims, 30), 0);
    const middle = seenAt(plan.camera(timeOf(1, 30)), [0, 0, 0]);
    expect(layer('Z')[pixelOf(middle)]).toBeCloseTo(middle[2], 4);
    expect(layer('Z')[0]).toBe(1e9);
    expect(layer('swarm.number')[0]).toBe(0);
  });
});

describe('motion', () => {
  const aims: Aim[] = [
    { from: [-1, 0.3, 0], velocity: [2, 0.5, -1] },
    { from: [0.8, -0.4, 0.5], velocity: [-0.5, 1.2, 2] },
  ];
  const bodies: [string, DialValues][] = [
    ['disc', { hardness: 1 }],
    ['square', { mode: 'opaque', facing: 'fixed' }],
    ['mesh', { mode: 'opaque' }],
    ['mesh', { mode: 'normal' }],
  ];

  test.each(bodies.flatMap(([kind, dials]) => [24, 60].map((rate) => ({ kind, dials, rate }))))(
    'is the difference of two frames ($kind, $rate frames a second)',
    ({ kind, dials, rate }) => {
      const piece = shownAs(kind, dials, aims, rate);
      piece.camera = makeChoice('cameras', 'perspective');
      const azimuth = { feed: 'formula', text: '40 * time', from: -400, to: 400 };
      Object.assign(piece.camera.dials, { azimuth, shake: 1, shutter: 180 });
      const { plan, layer } = drawn(piece, 12);
      const places = (): Vector[] =>
        aims.map((_, i) => ['px', 'py', 'pz'].map((n) => engine.state('motes', n)[i]!) as Vector);
      const now = places();
      drawn(piece, 11);
      const before = places();
      aims.forEach((_, i) => {
        const here = seenAt(plan.camera(timeOf(13, rate)), now[i]!);
        const there = seenAt(plan.camera(timeOf(12, rate)), before[i]!);
        const at = pixelOf(here);
        expect(Math.hypot(here[0] - there[0], here[1] - there[1])).toBeGreaterThan(0.2);
        expect(layer('motion.X')[at]).toBeCloseTo(here[0] - there[0], 2);
        expect(layer('motion.Y')[at]).toBeCloseTo(here[1] - there[1], 2);
      });
    },
  );

  test('of a trail is that of the camera alone: it stays where it was drawn', () => {
    const piece = shownAs('trail', { length: 20, form: 'tube' }, [aims[0]!], 30);
    const still = drawn(piece, 20);
    expect(still.layer('swarm.number').filter((n) => n === 1).length).toBeGreaterThan(20);
    expect(Math.max(...still.layer('motion.X').map(Math.abs))).toBeLessThan(1e-3);
    piece.camera.dials.roll = { feed: 'formula', text: '90 * time', from: -400, to: 400 };
    const turning = drawn(piece, 20);
    const { plan } = turning;
    const numbers = turning.layer('swarm.number');
    const [now, then] = [plan.camera(timeOf(21, 30)), plan.camera(timeOf(20, 30))];
    let seen = 0;
    numbers.forEach((n, i) => {
      if (n !== 1) return;
      seen += 1;
      // Turned about the middle by three degrees, the other way round than the camera.
      const [x, y] = [(i % WIDTH) + 0.5 - WIDTH / 2, HEIGHT / 2 - Math.floor(i / WIDTH) - 0.5];
      const angle = Math.atan2(dot(now.right, then.up), dot(now.right, then.right));
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      expect(Math.abs(turning.layer('motion.X')[i]! - (x - (c * x - s * y)))).toBeLessThan(0.2);
      expect(Math.abs(turning.layer('motion.Y')[i]! - (y - (s * x + c * y)))).toBeLessThan(0.2);
    });
    expect(seen).toBeGreaterThan(20);
  });
});

describe('beside the picture', () => {
  /** Two swarms, the second of another name and number, and a finish. */
  const two = (change: (p: Piece) => void = () => undefined): Piece =>
    smallPiece((p) => {
      const other = makeSwarm('sphere', p.swarms);
      other.id = 'dust';
      other.name = 'Grüner Staub / 2';
      other.emitter.dials.centre = [0.8, 0, 0];
      Object.assign(other.dials, { rate: 300, size: 0.3, colour: '#40ff80' });
      p.swarms.push(other);
      for (const swarm of p.swarms) Object.assign(swarm.bodies[0]!.dials, { mode: 'add' });
      change(p);
    });

  test('the picture is the same with layers and without', () => {
    const piece = two((p) => Object.assign(p.camera.dials, { shutter: 180, aperture: 0.05 }));
    const [bare, more] = [drawn(piece, 20, false), drawn(piece, 20)];
    expect(more.pixels).toEqual(bare.pixels);
    expect(engine.layers.channels.map((l) => l.name).sort()).toEqual(
      [
        'Z',
        'motion.X',
        'motion.Y',
        'swarm.number',
        ...'RGB'.split('').map((c) => `unfinished.${c}`),
        ...'RGBA'.split('').flatMap((c) => [`Motes.${c}`, `Gruner_Staub_2.${c}`]),
      ].sort(),
    );
  });

  test('light that adds up is that of the swarms by themselves; before its finish it is that without one', () => {
    const { layer } = drawn(two(), 20, true, true);
    const plain = drawn(
      two((p) => (p.finish = [])),
      20,
      false,
      true,
    );
    'RGB'.split('').forEach((c, i) => {
      expect(layer(`unfinished.${c}`)).toEqual(plain.light[i]);
      const sum = layer(`Motes.${c}`).map((v, k) => v + layer(`Gruner_Staub_2.${c}`)[k]!);
      const off = sum.map((v, k) => Math.abs(v - plain.light[i]![k]!));
      expect(Math.max(...off)).toBeLessThan(1e-5 * Math.max(1, ...sum));
    });
    expect(layer('Motes.A').some((a) => a > 1e-4)).toBe(false);
  });

  test('each pixel has the number of the swarm that is nearest', () => {
    const piece = two((p) => {
      p.swarms.forEach((swarm, i) => {
        swarm.emitter = makeChoice('emitters', 'point');
        swarm.emitter.dials.centre = [0, 0, i];
        Object.assign(swarm.dials, { rate: 0, burst: 1, size: i ? 0.4 : 1, lifetime: 100 });
        swarm.launch.dials.speed = 0;
        swarm.bodies[0]!.dials.hardness = 1;
      });
      p.forces = [];
    });
    const { layer, plan } = drawn(piece, 3);
    const pose = plan.camera(timeOf(4, 30));
    const number = layer('swarm.number');
    expect(engine.layers.notes).toEqual({ swarm1: 'Motes', swarm2: 'Grüner Staub / 2' });
    expect(number[pixelOf(seenAt(pose, [0, 0, 1]))]).toBe(2);
    expect(number[pixelOf(seenAt(pose, [-0.35, 0, 0]))]).toBe(1);
    expect(new Set(number)).toEqual(new Set([0, 1, 2]));
  });
});
