import { catalogue } from '@vast-swarm/core/kinds';
import { compilePiece } from '@vast-swarm/core/plan';
import { DEMO_SHOW, MADE } from '@vast-swarm/core/demo';
import { made } from '@vast-swarm/core/stock';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import { CpuEngine } from '@vast-swarm/cpu';
import { filled } from '../../tests/support/pieces';
import { crowd } from './crowd';
import { best, report } from './report';

/** What each body and each treatment of the finish costs at 1280×720, on two threads. */

const [WIDTH, HEIGHT] = [1280, 720];
const RUNS = 5;
/** How many cubes, and their sides in metres. */
const CUBES = [
  [1000, 0.05],
  [100_000, 0.02],
  [1_000_000, 0.02],
  [5_000_000, 0.01],
] as const;
const engine = await CpuEngine.create({ threads: 2 });

const stock = MADE.map((name) => ({
  id: name,
  name,
  type: made(name).type,
  source: { made: name },
}));

/** With a stock to take pictures, meshes and tables from. */
function stocked(count: number, change: (piece: Piece) => void): Piece {
  return crowd(count, (p) => {
    p.stock = stock;
    change(p);
  });
}

/** Milliseconds of drawing: looks and pixels, or the finish alone. */
function cost(piece: Piece, frame: number, finish = false): number {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  while (engine.frame < frame) engine.step();
  let least = Infinity;
  for (let i = 0; i < RUNS; i++) {
    engine.draw(WIDTH, HEIGHT);
    const { look, draw, finish: done } = engine.times;
    least = Math.min(least, finish ? done : look + draw);
  }
  return least;
}

const body = (kind: string, change: object = {}) => {
  const part = makePart('bodies', kind, []);
  filled(catalogue.bodies.find((k) => k.kind === kind)!.dials, part.dials);
  Object.assign(part.dials, change);
  return part;
};
const discs = cost(
  stocked(20_000, () => undefined),
  3,
);
for (const { kind, shape } of catalogue.bodies) {
  if (shape.draws === 'trail' || shape.draws === 'links' || shape.draws === 'mesh') continue;
  const piece = stocked(20_000, (p) => (p.swarms[0]!.bodies = [body(kind)]));
  report(`body ${kind}, 20,000 of about 8 pixels, against discs`, cost(piece, 3), 'ms', discs);
}
const sharp = stocked(20_000, (p) => {
  Object.assign(p.camera.dials, { aperture: 0.2, focus: 4, blades: 6 });
});
report('discs out of focus, 20,000, against sharp ones', cost(sharp, 3), 'ms', discs);
for (const [count, size] of CUBES) {
  const cubes = stocked(count, (p) => {
    p.swarms[0]!.bodies = [body('mesh', { form: 'cube', mode: 'opaque', facing: 'random' })];
    p.swarms[0]!.dials.size = size;
  });
  report(`${String(count)} lit cubes`, cost(cubes, 3), 'ms');
}
const links = stocked(2000, (p) => {
  p.swarms[0]!.bodies = [body('links', { radius: 0.55, most: 64, total: 500_000 })];
  Object.assign(p.swarms[0]!.emitter.dials, { size: [4, 3, 2] });
});
const all = cost(links, 3);
report(`links of 2,000 particles, ${String(engine.linksOf('swarm', 64).length)} lines`, all, 'ms');
const trails = stocked(10_000, (p) => {
  p.swarms[0]!.bodies = [body('trail', { length: 60 })];
  p.forces.push(makePart('forces', 'curlNoise', []));
});
report('10,000 trails of 60 frames', cost(trails, 70), 'ms');

const plain = cost(
  stocked(1000, () => undefined),
  3,
  true,
);
for (const { kind, dials } of catalogue.finish) {
  const piece = stocked(1000, (p) => {
    const part = makePart('finish', kind, []);
    filled(dials, part.dials);
    if ('swarm' in dials) part.dials.swarm = 'swarm';
    p.finish = [part];
  });
  report(`finish ${kind}, with the encoding, against it alone`, cost(piece, 3, true), 'ms', plain);
}
for (const { id, piece } of DEMO_SHOW.pieces) {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  while (engine.frame < 60) engine.step();
  const least = best(12, () => {
    engine.step();
    engine.draw(640, 360, 1, 1);
  });
  report(`${id}, a frame at 640x360`, least, 'ms', 50);
}
engine.close();
