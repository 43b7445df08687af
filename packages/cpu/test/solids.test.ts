import '@vast-swarm/core/content';
import { cameraAt, compilePiece, Scene } from '@vast-swarm/core/plan';
import { makeChoice, makePart, makePiece, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import type { DialValues } from '@vast-swarm/core/kinds';
import { CpuEngine } from '../src';
import { Pool } from '../src/pool';
import { swept } from '../../../tests/support/sweep';

/** Opaque copies of meshes: what is seen of them, by references that know nothing of tiles or points. */

const [W, H] = [192, 108];

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

type Change = (piece: Piece) => void;

/** Two swarms of cubes in a ball, red ones and blue ones, lit evenly, before black. */
function cubes(count: number, size: number, change: Change = () => undefined): Piece {
  const piece = makePiece('Cubes');
  piece.frame = { ...piece.frame, width: W, height: H };
  piece.backdrop = makeChoice('backdrops', 'flat');
  piece.backdrop.dials.colour = '#000000';
  piece.swarms = ['#ff0000', '#0000ff'].map((colour, i) => {
    const swarm = { ...makeSwarm('sphere', []), id: `cubes${String(i)}` };
    Object.assign(swarm.emitter.dials, { radius: 1.6, fill: 'inside' });
    const births = { when: 'bursts', burst: count / 2, lasts: 'ever' } as const;
    Object.assign(swarm.dials, { ...births, size, colour, opacity: 1 });
    swarm.launch.dials.speed = 0;
    swarm.bodies = [makePart('bodies', 'mesh', [])];
    Object.assign(swarm.bodies[0]!.dials, { mode: 'opaque', gloss: 0 });
    return swarm;
  });
  piece.lights = [makePart('lights', 'ambient', [])];
  Object.assign(piece.lights[0]!.dials, { strength: 1, colour: '#ffffff' });
  piece.finish = [];
  change(piece);
  return piece;
}

interface Light {
  light: number[][];
  width: number;
}

function drawn(piece: Piece, width = W, height = H): Light {
  const plan = compilePiece(piece);
  expect(plan.notices).toEqual([]);
  engine.setPlan(plan);
  engine.reset();
  engine.step();
  engine.draw(width, height);
  const light = [0, 1, 2].map((c) => Array.from(engine.lightOf(width, height, c)));
  return { light, width };
}

/** The mean over blocks of k × k pixels. */
function shrunk({ light, width }: Light, k: number): Light {
  const across = width / k;
  const mean = (plane: number[]): number[] =>
    Array.from({ length: plane.length / k ** 2 }, (_, i) => {
      const [x, y] = [(i % across) * k, Math.floor(i / across) * k];
      let sum = 0;
      for (let j = 0; j < k * k; j++) sum += plane[(y + Math.floor(j / k)) * width + x + (j % k)]!;
      return sum / k ** 2;
    });
  return { light: light.map(mean), width: across };
}

/** Mean difference of two pictures as they are seen, in sRGB of 0 to 1. */
function apart(a: Light, b: Light): number {
  const seen = (v: number): number =>
    v <= 0.0031308 ? 12.92 * v : 1.055 * Math.min(1, v) ** (1 / 2.4) - 0.055;
  let sum = 0;
  for (let c = 0; c < 3; c++) {
    a.light[c]!.forEach((v, i) => (sum += Math.abs(seen(v) - seen(b.light[c]![i]!))));
  }
  return sum / (3 * a.light[0]!.length);
}

/** Boxes that stand upright, ray by ray: of the nearest that each of 4 × 4 rays of a pixel meets. */
function byRays(piece: Piece, half: number): Light {
  const camera = cameraAt(new Scene(piece), 1 / piece.frame.rate);
  const k = 4;
  const width = W * k;
  const light = [0, 1, 2].map(() => new Array<number>(width * H * k).fill(0));
  const nearest = new Float64Array(width * H * k).fill(Infinity);
  const zoom = camera.focal * H * k;
  const along = (v: number[], axis: readonly number[]): number =>
    v.reduce((s, x, i) => s + x * axis[i]!, 0);
  piece.swarms.forEach(({ id, dials }, swarm) => {
    const [px, py, pz] = ['px', 'py', 'pz'].map((name) => engine.state(id, name));
    for (let n = 0; n < dials.burst; n++) {
      const from = [px![n]!, py![n]!, pz![n]!].map((p, i) => p - camera.eye[i]!);
      const depth = along(from, camera.forward);
      const x = width / 2 + (along(from, camera.right) / depth) * zoom;
      const y = (H * k) / 2 - (along(from, camera.up) / depth) * zoom;
      const reach = (2.5 * half * zoom) / depth + 1;
      for (let j = Math.max(0, Math.floor(y - reach)); j < Math.min(H * k, y + reach); j++) {
        for (let i = Math.max(0, Math.floor(x - reach)); i < Math.min(width, x + reach); i++) {
          const [u, v] = [(i + 0.5 - width / 2) / zoom, ((H * k) / 2 - j - 0.5) / zoom];
          const spans = from.map((p, a) => {
            const way = camera.forward[a]! + u * camera.right[a]! + v * camera.up[a]!;
            const ends = [(p - half) / way, (p + half) / way];
            return [Math.min(...ends), Math.max(...ends)] as const;
          });
          const enter = Math.max(...spans.map((s) => s[0]));
          const at = j * width + i;
          if (enter > Math.min(...spans.map((s) => s[1])) || enter >= nearest[at]!) continue;
          nearest[at] = enter;
          for (let c = 0; c < 3; c++) light[c]![at] = Number(c === 2 * swarm);
        }
      }
    }
  });
  return { light, width };
}

const BOXES: [string, number, number, number][] = [
  ['large', 60, 0.7, 0.0005],
  ['middling', 700, 0.2, 0.001],
  ['small', 4000, 0.07, 0.002],
  ['tiny', 8000, 0.02, 0.01],
];

test.each(swept(BOXES, 0.4))('%s boxes are seen where rays meet them', (_, count, size, most) => {
  const piece = cubes(count, size);
  const shown = drawn(piece);
  expect(apart(shown, shrunk(byRays(piece, size / 2), 4))).toBeLessThan(most);
});

/** Copies that are turned any way, lit, and of colours that a piece would have. */
const lit: Change = (piece) => {
  piece.swarms[0]!.dials.colour = '#e0703a';
  piece.swarms[1]!.dials.colour = '#3a8ae0';
  piece.lights.push(makePart('lights', 'key', []));
  for (const { bodies } of piece.swarms) {
    Object.assign(bodies[0]!.dials, { facing: 'random', axis: 'random', gloss: 0.3 });
  }
};
const of = (mesh: string): Change => {
  return (piece) => {
    lit(piece);
    const entry = { id: mesh, name: mesh, type: 'mesh' as const, source: { made: mesh } };
    piece.stock.push(entry);
    for (const { bodies } of piece.swarms) {
      Object.assign(bodies[0]!.dials, { form: 'mesh', mesh, smooth: 'smooth', pivot: 'base' });
    }
  };
};

test.each<[string, number, number, Change, number?]>([
  ['a few cubes', 40, 1, lit],
  ['hundreds of cubes', 600, 0.25, lit],
  ['thousands of cubes', 20_000, 0.06, lit],
  ['cubes of a pixel', 60_000, 0.02, lit],
  ['specks', 200_000, 0.008, lit],
  ['buoys', 60, 0.8, of('buoy')],
  ['small buoys', 6000, 0.1, of('buoy')],
  ['specks of buoys', 100_000, 0.015, of('buoy'), 0.0125],
])('%s are what they are at four times the size, shrunk', (_, count, size, change, most = 0.01) => {
  const piece = cubes(count, size, change);
  expect(apart(drawn(piece), shrunk(drawn(piece, 4 * W, 4 * H), 4))).toBeLessThan(most);
});

test('specks give as much light as they cover, however small', () => {
  for (const size of [0.02, 0.01, 0.005]) {
    // So few that hardly one hides another.
    const piece = cubes(400, size, (p) => (p.frame = { ...p.frame, rate: 1, length: 3 }));
    let sum = 0;
    // From many sides, for a speck of a part of a sample is seen or not.
    for (let turn = 0; turn < 12; turn++) {
      piece.camera.dials.azimuth = 30 * turn + 5;
      sum += [0, 2].reduce((s, c) => s + drawn(piece).light[c]!.reduce((a, b) => a + b, 0), 0);
    }
    const camera = cameraAt(new Scene(piece), 1);
    const zoom = (camera.focal * H) / (piece.camera.dials.distance as number);
    // A cube's shadow is on the mean 1.5 times a face of it (A. Cauchy, 1832).
    const expected = 400 * 1.5 * (size * zoom) ** 2 * 12;
    expect(sum / expected).toBeGreaterThan(0.8);
    expect(sum / expected).toBeLessThan(1.25);
  }
});

test('what is wholly behind something is not seen, whatever the order of the swarms', () => {
  const wall: Change = (p) => {
    const [a, b] = [p.swarms[0]!, p.swarms[1]!];
    a.emitter.dials.radius = 0.8;
    b.emitter = makeChoice('emitters', 'point');
    b.emitter.dials.centre = [0, 0, 2.2];
    Object.assign(b.dials, { burst: 1, size: 3 } satisfies DialValues);
    p.camera.dials.elevation = 0;
    p.camera.dials.azimuth = 0;
  };
  for (const turned of [false, true]) {
    const piece = cubes(4000, 0.05, (p) => {
      wall(p);
      if (turned) p.swarms.reverse();
    });
    const { light } = drawn(piece);
    expect(Math.max(...light[0]!)).toBe(0);
    expect(Math.max(...light[2]!)).toBe(1);
  }
});

test.each([1, 2, 3])('copies that reach round the eye harm nothing (%d)', (seed) => {
  const piece = cubes(3000, 0.9, (p) => {
    p.seed = seed;
    lit(p);
    p.camera.dials.distance = 0.2;
  });
  const { light } = drawn(piece);
  expect(light.flat().every((v) => Number.isFinite(v) && v >= 0)).toBe(true);
});

test('the same on one thread as on two', async () => {
  const piece = cubes(30_000, 0.05, lit);
  const one = await CpuEngine.create({ threads: 1 });
  one.setPlan(compilePiece(piece));
  one.reset();
  one.step();
  one.draw(W, H);
  const { light } = drawn(piece);
  for (let c = 0; c < 3; c++) expect(Array.from(one.lightOf(W, H, c))).toEqual(light[c]);
  one.close();
});

test('a frame that fails leaves nothing of itself in the next one', () => {
  const piece = cubes(200, 0.2, lit);
  const aside = structuredClone(piece);
  aside.camera.dials.azimuth = 90;
  const wanted = drawn(aside);
  engine.setPlan(compilePiece(piece));
  const { pool } = engine as unknown as { pool: Pool };
  const failing = jest.spyOn(pool, 'raster').mockImplementation((name, ...rest) => {
    if (name === 'drawSolids') throw new Error('as a thread that stops answering');
    Pool.prototype.raster.call(pool, name, ...rest);
  });
  expect(() => engine.draw(W, H)).toThrow('as a thread');
  failing.mockRestore();
  expect(drawn(aside)).toEqual(wanted);
});
