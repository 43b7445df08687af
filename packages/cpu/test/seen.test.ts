import { compilePiece } from '@vast-swarm/core/plan';
import { makeChoice, makePart, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from '../../../tests/support/pieces';
import { CpuEngine } from '../src';

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 1 });
});
afterAll(() => {
  engine.close();
});

const RATE = 30;
const [WIDTH, HEIGHT, TALL] = [256, 144, 4];

/** One particle 1 m from the axis of a vortex that carries it round once a second. */
function carried(change: (piece: Piece) => void = () => undefined): Piece {
  return smallPiece((p) => {
    Object.assign(p, { finish: [], forces: [makePart('forces', 'vortex', [])] });
    p.backdrop = { kind: 'flat', dials: { colour: '#000000' } };
    // At its radius half of the spin is left.
    Object.assign(p.forces[0]!.dials, { axis: [0, 0, 1], spin: 720, radius: 1, falloff: 2 });
    p.camera = makeChoice('cameras', 'orthographic');
    Object.assign(p.camera.dials, { tall: TALL, elevation: 0, distance: 6 });
    p.frame.rate = RATE;
    const swarm = p.swarms[0]!;
    swarm.emitter = makeChoice('emitters', 'point');
    swarm.emitter.dials.centre = [1, 0, 0];
    swarm.launch.dials.speed = 0;
    swarm.bodies = [makePart('bodies', 'disc', [])];
    Object.assign(swarm.bodies[0]!.dials, { mode: 'add', hardness: 1 });
    Object.assign(swarm.dials, { rate: 0, burst: 1, lifetime: 60, size: 0.4, opacity: 1 });
    Object.assign(swarm.dials, { colour: '#ffffff', light: 1 });
    change(p);
  });
}

function light(piece: Piece, frame = 5): Float32Array {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  while (engine.frame < frame) engine.step();
  engine.draw(WIDTH, HEIGHT);
  return engine.lightOf(WIDTH, HEIGHT);
}

/** Sum of the light, and its second moment about its middle in square pixels. */
function moments(values: Float32Array): { sum: number; spread: number } {
  let [sum, sx, sy, ss] = [0, 0, 0, 0];
  values.forEach((v, i) => {
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
    sum += v;
    sx += v * x;
    sy += v * y;
    ss += v * (x * x + y * y);
  });
  return { sum, spread: ss / sum - (sx / sum) ** 2 - (sy / sum) ** 2 };
}

/** m/s along the chord of a frame, of a circle of 1 m gone round once a second. */
const SPEED = 2 * RATE * Math.sin(Math.PI / RATE);

test('readings of speed tell how fast a carried particle is seen to go', () => {
  const fed = carried((p) => {
    const text = `speed / ${String(SPEED)}`;
    p.swarms[0]!.dials.light = { feed: 'formula', text, from: 0, to: 4 };
  });
  const plain = moments(light(carried())).sum;
  expect(moments(light(fed)).sum / plain).toBeCloseTo(1, 3);
  const [vx, vy] = ['vx', 'vy'].map((s) => engine.state('motes', s)[0]!);
  // Its own velocity has nothing to do with it.
  expect(Math.hypot(vx!, vy!)).toBe(0);
});

test('an open shutter blurs what is carried by the way it goes', () => {
  const samples = 16;
  const blurred = carried((p) => Object.assign(p.camera.dials, { shutter: 360, samples }));
  const [sharp, smeared] = [moments(light(carried())), moments(light(blurred))];
  expect(smeared.sum / sharp.sum).toBeCloseTo(1, 2);
  // Places spread evenly over a length L have a variance of L² / 12 (1 - 1 / n²).
  const length = ((SPEED / RATE) * HEIGHT) / TALL;
  const wanted = (length ** 2 / 12) * (1 - 1 / samples ** 2);
  expect((smeared.spread - sharp.spread) / wanted).toBeCloseTo(1, 1);
});

test('a streak lies along the flow that carries it', () => {
  const streak = carried((p) => {
    p.swarms[0]!.bodies = [makePart('bodies', 'streak', [])];
    Object.assign(p.swarms[0]!.bodies[0]!.dials, { mode: 'add', stretch: 0.2, hardness: 1 });
    p.swarms[0]!.dials.size = 0.1;
  });
  // After a quarter of a turn it stands on top and goes sideways.
  const values = light(streak, Math.round(0.25 * RATE) - 1);
  const lit = [...values.keys()].filter((i) => values[i]! > 0.3);
  const span = (at: (i: number) => number): number =>
    Math.max(...lit.map(at)) - Math.min(...lit.map(at));
  expect(span((i) => i % WIDTH)).toBeGreaterThan(5 * span((i) => Math.floor(i / WIDTH)));
});

test('nothing more is kept of particles whose look does not ask', () => {
  const states = (change?: (piece: Piece) => void): string[] => [
    ...compilePiece(carried(change)).swarms[0]!.state,
  ];
  expect(states()).not.toContain('seen.x');
  expect(states((p) => Object.assign(p.camera.dials, { shutter: 90 }))).toContain('seen.x');
  const pushed = (p: Piece): void => {
    p.camera.dials.shutter = 90;
    p.forces[0]!.dials.acts = 'push';
  };
  expect(states(pushed)).not.toContain('seen.x');
});
