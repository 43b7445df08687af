import { compilePiece } from '@vast-swarm/core/plan';
import { makeChoice, makePart, planeZone, type Piece } from '@vast-swarm/core/piece';
import type { Clip } from '@vast-swarm/core/stock';
import { CpuEngine } from '../src';
import { smallPiece } from '../../../tests/support/pieces';
import { chiSquare } from './flight';

/** A bright square that wanders over a dim picture: where births are, frame by frame, and how they are carried. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

const HASH = 'dddddddddddddddd';
const [WIDTH, HEIGHT, SIDE] = [64, 36, 12];
/** Left and top of the square in a picture: it goes 1.5 pixels right and half a pixel down each time. */
const corner = (index: number): [number, number] => [
  4 + Math.floor(1.5 * index),
  3 + Math.floor(index / 2),
];

function clipOf(dim: number, textured = false): Clip {
  return {
    type: 'clip',
    width: WIDTH,
    height: HEIGHT,
    times: Float64Array.from({ length: 25 }, (_, i) => i / 30),
    picture(index) {
      const [left, top] = corner(index);
      const pixels = new Uint8Array(4 * WIDTH * HEIGHT).fill(255);
      for (let i = 0; i < WIDTH * HEIGHT; i++) {
        const [x, y] = [(i % WIDTH) - left, Math.floor(i / WIDTH) - top];
        const inside = x >= 0 && x < SIDE && y >= 0 && y < SIDE;
        const tone = textured ? 150 + 100 * Math.sin(x * 1.1) * Math.cos(y * 0.9) : 255;
        pixels.fill(inside ? tone : dim, 4 * i, 4 * i + 3);
      }
      return { type: 'picture', width: WIDTH, height: HEIGHT, pixels };
    },
  };
}

function played(clip: Clip, change: (piece: Piece) => void): void {
  const piece = smallPiece((p) => {
    p.stock.push({
      id: 'square',
      name: 'Square',
      type: 'clip',
      source: { file: 'a.mp4', hash: HASH },
    });
    p.pictures = [makePart('pictures', 'played', [])];
    p.pictures[0]!.dials.clip = 'square';
    p.forces = [];
    change(p);
  });
  engine.setPlan(compilePiece(piece, { files: new Map([[HASH, clip]]) }));
  engine.reset();
}

function borne(p: Piece, dials: Record<string, number | string>): void {
  const swarm = p.swarms[0]!;
  swarm.emitter = makeChoice('emitters', 'picture');
  Object.assign(swarm.emitter.dials, { picture: 'played', width: WIDTH, ...dials });
  Object.assign(swarm.dials, { rate: 30 * 1600, lifetime: 60 });
  swarm.launch.dials.speed = 0;
}

/** Columns and rows of the births of a frame, 1600 each. */
function bornIn(frame: number): [number, number][] {
  const [px, py] = [engine.state('motes', 'px'), engine.state('motes', 'py')];
  return Array.from({ length: 1600 }, (_, i) => {
    const id = 1600 * frame + i;
    return [px[id]! + WIDTH / 2, HEIGHT / 2 - py[id]!];
  });
}

test('all births are in the square where it is in their frame, evenly', () => {
  played(clipOf(0), (p) => borne(p, { limit: 0.3 }));
  const all: [number, number][] = [];
  for (let frame = 0; frame < 20; frame++) {
    engine.step();
    const [left, top] = corner(frame);
    const places = bornIn(frame).map(([x, y]): [number, number] => [
      (x - left) / SIDE,
      (y - top) / SIDE,
    ]);
    const flat = places.flat();
    expect(Math.min(...flat)).toBeGreaterThanOrEqual(-1e-4);
    expect(Math.max(...flat)).toBeLessThanOrEqual(1 + 1e-4);
    // Fifteen degrees of freedom: a thousandth of fair ones are above 37.7.
    for (const axis of [0, 1] as const) {
      expect(
        chiSquare(places.map((place) => Math.min(0.9999, Math.max(0, place[axis])))),
      ).toBeLessThan(37.7);
    }
    all.push(...places);
  }
  expect(chiSquare(all.map(([x]) => Math.min(0.9999, Math.max(0, x))))).toBeLessThan(37.7);
});

test('by how much it has, births inside and outside go as their light', () => {
  // 188 is half the light of 255.
  played(clipOf(99), (p) => borne(p, { limit: 0.05, density: 'value' }));
  const light = ((99 / 255 + 0.055) / 1.055) ** 2.4;
  const [bright, dim] = [SIDE * SIDE, (WIDTH * HEIGHT - SIDE * SIDE) * light];
  const share = bright / (bright + dim);
  for (let frame = 0; frame < 20; frame++) {
    engine.step();
    const [left, top] = corner(frame);
    const inside = bornIn(frame).filter(
      ([x, y]) => x >= left && x <= left + SIDE && y >= top && y <= top + SIDE,
    ).length;
    // Four standard deviations.
    expect(Math.abs(inside / 1600 - share)).toBeLessThan(
      4 * Math.sqrt((share * (1 - share)) / 1600),
    );
  }
});

test('nothing is born where nothing passes, and the picture is missed without harm', () => {
  played(clipOf(0), (p) => borne(p, { limit: 1.0001 - 1e-4, by: 'brightness' }));
  engine.step();
  expect(engine.alive().get('motes')).toBe(1600);
  played(clipOf(0), (p) => {
    borne(p, { limit: 0.3 });
    p.pictures[0]!.on = false;
  });
  engine.step();
  expect(engine.alive().get('motes')).toBe(0);
});

test.each(['carry', 'push'] as const)(
  'clip flow takes along what lies on the square: %s',
  (acts) => {
    played(clipOf(20, true), (p) => {
      const swarm = p.swarms[0]!;
      swarm.emitter = makeChoice('emitters', 'point');
      // In the middle of where the square goes in the meantime.
      swarm.emitter.dials.centre = [4 + 6 - WIDTH / 2, HEIGHT / 2 - (3 + 6), 0];
      Object.assign(swarm.dials, { rate: 0, burst: 4, lifetime: 60 });
      swarm.launch.dials.speed = 0;
      p.forces = [makePart('forces', 'clipFlow', [])];
      Object.assign(p.forces[0]!.dials, { clip: 'played', detail: WIDTH, smooth: 0, steady: 4 });
      Object.assign(p.forces[0]!.dials, { width: WIDTH, height: HEIGHT, acts, grip: 60 });
    });
    const from = [4 + 6 - WIDTH / 2, HEIGHT / 2 - (3 + 6)];
    for (let frame = 0; frame < 16; frame++) engine.step();
    const way = [
      engine.state('motes', 'px')[0]! - from[0]!,
      engine.state('motes', 'py')[0]! - from[1]!,
    ];
    // 1.5 pixels right and half a pixel down a frame, of a metre each.
    expect(Math.abs(way[0]! / (16 * 1.5) - 1)).toBeLessThan(0.15);
    expect(Math.abs(way[1]! / (-16 * 0.5) - 1)).toBeLessThan(0.25);
  },
);

test('a clip that stands still moves nothing', () => {
  const still = clipOf(20, true);
  const first = still.picture(0);
  played({ ...still, picture: () => first }, (p) => {
    p.swarms[0]!.launch.dials.speed = 0;
    p.forces = [makePart('forces', 'clipFlow', [])];
    Object.assign(p.forces[0]!.dials, { clip: 'played', width: WIDTH, height: HEIGHT });
  });
  engine.step();
  const before = engine.state('motes', 'px').slice(0, 8);
  for (let frame = 0; frame < 10; frame++) engine.step();
  expect(engine.state('motes', 'px').slice(0, 8)).toEqual(before);
});

test('what leaves the plane of a flow dies, by a zone that is made for it', () => {
  played(clipOf(0), (p) => {
    const swarm = p.swarms[0]!;
    swarm.emitter = makeChoice('emitters', 'point');
    swarm.launch = makeChoice('launches', 'cone');
    // Along the plane to its right, which stands turned about y.
    const [c, s] = [Math.cos(0.6), Math.sin(0.6)];
    Object.assign(swarm.launch.dials, { speed: 3, angle: 0, direction: [c, 0, -s] });
    Object.assign(swarm.dials, { rate: 0, burst: 4, lifetime: 60 });
    p.forces = [makePart('forces', 'clipFlow', [])];
    const turn = [0, (0.6 * 180) / Math.PI, 0] as [number, number, number];
    Object.assign(p.forces[0]!.dials, { clip: 'played', width: 4, height: 2, turn });
    p.colliders = [planeZone(p, p.forces[0]!)!];
  });
  // Two metres to the edge, at a tenth of a metre a frame.
  for (let frame = 0; frame < 19; frame++) engine.step();
  expect(engine.alive().get('motes')).toBe(4);
  for (let frame = 0; frame < 3; frame++) engine.step();
  expect(engine.alive().get('motes')).toBe(0);
});

test('what is born by the motion of a clip goes as the square does', () => {
  played(clipOf(20, true), (p) => {
    borne(p, { limit: 0.05 });
    p.swarms[0]!.dials.rate = 30 * 400;
    p.swarms[0]!.launch = makeChoice('launches', 'byClip');
    const dials = { clip: 'played', width: WIDTH, detail: WIDTH, smooth: 0 };
    Object.assign(p.swarms[0]!.launch.dials, dials);
  });
  for (let frame = 0; frame < 10; frame++) engine.step();
  const [left, top] = corner(9);
  const inside: [number, number][] = [];
  for (let id = 9 * 400; id < 10 * 400; id++) {
    const [x, y, vx, vy] = (['px', 'py', 'vx', 'vy'] as const).map(
      (n) => engine.state('motes', n)[id]!,
    );
    const [column, row] = [x! + WIDTH / 2 - left, HEIGHT / 2 - y! - top];
    if (column > 4 && column < SIDE - 4 && row > 4 && row < SIDE - 4) inside.push([vx!, vy!]);
  }
  expect(inside.length).toBeGreaterThan(5);
  const mean = [0, 1].map((k) => inside.reduce((sum, v) => sum + v[k]!, 0) / inside.length);
  expect(Math.abs(mean[0]! / 45 - 1)).toBeLessThan(0.2);
  expect(Math.abs(mean[1]! / -15 - 1)).toBeLessThan(0.4);
});

test('a particle drawn as a clip shows the picture of each frame', () => {
  const [wide, high] = [4 * WIDTH, 4 * HEIGHT];
  played(clipOf(0), (p) => {
    p.frame = { ...p.frame, width: wide, height: high };
    p.camera = makeChoice('cameras', 'orthographic');
    Object.assign(p.camera.dials, { elevation: 0, tall: HEIGHT / WIDTH });
    p.backdrop = makeChoice('backdrops', 'flat');
    p.backdrop.dials.colour = '#000000';
    p.finish = [];
    const [swarm] = p.swarms;
    swarm!.emitter = makeChoice('emitters', 'point');
    swarm!.launch.dials.speed = 0;
    swarm!.bodies = [makePart('bodies', 'picture', [])];
    Object.assign(swarm!.bodies[0]!.dials, { picture: 'played', mode: 'normal' });
    const once = { rate: 0, burst: 1, lasts: 'ever', size: 1, opacity: 1, light: 1 };
    Object.assign(swarm!.dials, { ...once, colour: '#ffffff' });
  });
  for (const frame of [0, 5, 11, 20]) {
    while (engine.frame < frame) engine.step();
    const { pixels } = engine.draw(wide, high);
    let [x, y, count] = [0, 0, 0];
    for (let at = 0; at < wide * high; at++) {
      if (pixels[4 * at]! < 128) continue;
      [x, y, count] = [x + (at % wide), y + Math.floor(at / wide), count + 1];
    }
    const [left, top] = corner(frame);
    expect(Math.abs((x / count + 0.5) / 4 - (left + SIDE / 2))).toBeLessThan(0.3);
    expect(Math.abs((y / count + 0.5) / 4 - (top + SIDE / 2))).toBeLessThan(0.3);
    expect(Math.abs(count / 16 / SIDE ** 2 - 1)).toBeLessThan(0.1);
  }
});
