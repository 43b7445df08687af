import { compilePiece } from '@vast-swarm/core/plan';
import { kindOf, type DialValues } from '@vast-swarm/core/kinds';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import { CpuEngine } from '../src';
import { filled } from '../../../tests/support/pieces';
import { force, near, run as flown, thrown } from './flight';

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 1 });
});
afterAll(() => engine.close());
const run = (piece: Piece, seconds: number) => flown(engine, piece, seconds);

function solid(piece: Piece, kind: string, dials: DialValues): Piece {
  const part = makePart('colliders', kind, piece.colliders);
  filled(kindOf('colliders', kind).dials, part.dials);
  Object.assign(part.dials, dials);
  piece.colliders.push(part);
  return piece;
}

/** Dropped from a height, at rest, above whatever stands below. */
function dropped(height: number, rate = 60): Piece {
  const piece = thrown(0, [force('gravity', {})], [0, height, 0], rate);
  piece.frame.length = 40 * rate;
  return piece;
}

test.each([0.3, 0.6, 0.9])('bounce heights follow the restitution of %d to 1 %', (bounce) => {
  const piece = solid(dropped(2), 'plane', { bounce, friction: 0 });
  engine.setPlan(compilePiece(piece));
  engine.reset();
  const heights: number[] = [];
  let [before, rising] = [2, false];
  for (let i = 0; i < 60 * 8 && heights.length < 2; i++) {
    engine.step();
    const y = engine.state('motes', 'py')[0]!;
    if (rising && y < before) heights.push(before);
    rising = y > before;
    before = y;
  }
  near(heights[0]!, 2 * bounce ** 2, 0.01);
});

test.each(['plane', 'box', 'sphere', 'capsule'])(
  'nothing goes through a thin %s at 200 m/s and 30 frames a second',
  (kind) => {
    const dials: DialValues = {
      plane: { turn: [0, 0, 90], centre: [20, 0, 0] },
      box: { size: [0.01, 4, 4], centre: [20, 0, 0] },
      sphere: { radius: 0.05, centre: [20, 0, 0] },
      capsule: { from: [0, -1, 0], to: [0, 1, 0], radius: 0.01, centre: [20, 0, 0] },
    }[kind] as unknown as DialValues;
    const piece = solid(thrown(200, []), kind, { ...dials, bounce: 0.5 });
    const { p, v } = run(piece, 1);
    expect(v[0]).toBeCloseTo(-100, 0);
    expect(p[0]).toBeLessThan(20);
  },
);

test('a thin open mesh stops what is fast', () => {
  const dials = { mesh: 'slipway', centre: [0, -20, 0] as [number, number, number], bounce: 0.2 };
  const piece = solid(thrown(200, []), 'mesh', dials);
  Object.assign(piece.swarms[0]!.launch.dials, { direction: [0, -1, 0] });
  const { p, v } = run(piece, 1);
  // The slipway lies between 0.5 m above and 1.1 m below its middle.
  expect(p[1]).toBeGreaterThan(-21.2);
  expect(Math.hypot(...v)).toBeLessThan(200);
});

test('a particle that slides down a plane without friction goes as fast as physics says', () => {
  const piece = solid(dropped(0.2), 'plane', { touch: 'slide', friction: 0, turn: [0, 0, -30] });
  const { v } = run(piece, 3);
  // What it falls before it meets the slope counts along the slope too; only the rest is lost.
  near(Math.hypot(...v), 9.81 * Math.sin(Math.PI / 6) * 3, 0.01);
});

test.each(['plane', 'box', 'sphere', 'mesh'])(
  'after 600 frames at rest no particle is inside the %s',
  (kind) => {
    const piece = dropped(2.4, 30);
    Object.assign(piece.swarms[0]!.dials, { burst: 400 });
    piece.swarms[0]!.emitter = { ...piece.swarms[0]!.emitter, kind: 'box' };
    piece.swarms[0]!.emitter.dials = {
      ...piece.swarms[0]!.emitter.dials,
      size: [1.5, 0.4, 1.5],
      fill: 'inside',
    };
    const dials: DialValues = kind === 'mesh' ? { mesh: 'buoy', bounce: 0.3 } : { bounce: 0.3 };
    solid(piece, kind, dials);
    // A floor under it, so that what rolls off comes to rest.
    solid(piece, 'plane', { centre: [0, -2.5, 0] });
    run(piece, 20);
    const [x, y, z] = (['px', 'py', 'pz'] as const).map((n) => engine.state('motes', n));
    const inside = Array.from(x!, (px, i) => {
      const [py, pz] = [y![i]!, z![i]!];
      if (py < -2.5 - 1e-4) return true;
      if (kind === 'plane') return py < -1e-4;
      if (kind === 'sphere') return Math.hypot(px, py, pz) < 1 - 1e-4;
      if (kind === 'box') {
        return Math.abs(px) < 1 - 1e-4 && Math.abs(py) < 0.5 - 1e-4 && Math.abs(pz) < 1 - 1e-4;
      }
      // The buoy's float: a radius of 1 up to the deck, with the grid's own error.
      return py > -0.6 && py < -0.3 && Math.hypot(px, pz) < 0.95;
    });
    expect(inside.filter(Boolean)).toEqual([]);
    const [vx, vy, vz] = (['vx', 'vy', 'vz'] as const).map((n) => engine.state('motes', n));
    const speeds = Array.from(vx!, (v, i) => Math.hypot(v, vy![i]!, vz![i]!));
    expect(speeds.filter((v) => v < 0.3).length).toBeGreaterThan(300);
  },
);

test('what sticks stays, what dies is gone, and influence 0 lets pass', () => {
  const stick = solid(dropped(1), 'plane', { touch: 'stick', turn: [0, 0, 40] });
  const { p, v } = run(stick, 3);
  expect(Math.abs(p[1])).toBeLessThan(1e-3);
  expect(Math.hypot(...v)).toBe(0);
  run(solid(dropped(1), 'plane', { touch: 'die' }), 2);
  expect(engine.alive().get('motes')).toBe(0);
  const free = solid(dropped(1), 'plane', {});
  free.influence = { plane: { motes: 0 } };
  near(run(free, 3).p[1], 1 - 0.5 * 9.81 * 9, 1e-3);
});

test('a box can hold particles in', () => {
  const piece = solid(thrown(7, []), 'box', {
    side: 'inside',
    size: [2, 2, 2],
    bounce: 1,
    friction: 0,
  });
  Object.assign(piece.swarms[0]!.launch.dials, { direction: [1, 0.7, 0.4] });
  const { p, v } = run(piece, 15);
  for (const c of p) expect(Math.abs(c)).toBeLessThanOrEqual(1 + 1e-4);
  near(Math.hypot(...v), 7, 1e-3);
});

test('a floor that rises takes particles along', () => {
  const piece = solid(dropped(0), 'plane', { bounce: 0 });
  piece.signals.push({ ...makePart('signals', 'keyframes', []), id: 'lift' });
  piece.signals[0]!.dials.keys = [
    { at: 0, value: 0, ease: 'straight' },
    { at: 10, value: 5 },
  ];
  piece.colliders[0]!.dials.centre = [0, { feed: 'signal', signal: 'lift', from: 0, to: 1 }, 0];
  const { p } = run(piece, 4);
  near(p[1], 2, 0.01);
});

test('zones slow, push and kill on the side they act on', () => {
  const slow = solid(thrown(4, []), 'sphere', {
    acts: 'zone',
    side: 'inside',
    radius: 1000,
    does: 'slow',
    strength: 2,
    soft: 0,
  });
  near(run(slow, 1).v[0], 4 * Math.exp(-2), 1e-3);
  const push = solid(thrown(0, [], [0.5, 0, 0]), 'sphere', {
    acts: 'zone',
    side: 'inside',
    radius: 1,
    does: 'push',
    strength: 3,
    soft: 0,
  });
  expect(run(push, 2).p[0]).toBeGreaterThan(1);
  const die = solid(thrown(1, []), 'box', {
    acts: 'zone',
    side: 'outside',
    size: [4, 4, 4],
    does: 'die',
  });
  run(die, 1.5);
  expect(engine.alive().get('motes')).toBe(4);
  run(die, 3);
  expect(engine.alive().get('motes')).toBe(0);
});
