import { catalogue } from '@vast-swarm/core/kinds';
import { compilePiece } from '@vast-swarm/core/plan';
import { made, type Mesh } from '@vast-swarm/core/stock';
import { MADE } from '@vast-swarm/core/demo';
import { makeChoice, makePart, makePiece, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import { fieldOf } from '@vast-swarm/core/stock/places/distanceField';
import { facesByArea } from '@vast-swarm/core/stock/places/meshParts';
import { surface } from '@vast-swarm/core/content/surface';
import { CpuEngine } from '@vast-swarm/cpu';
import { filled } from '../../tests/support/pieces';
import { best, report } from './report';

/** What each kind of motion costs a particle, against a step of curl noise in the same run. */

const COUNT = 200_000;

function crowd(count: number, change: (piece: Piece) => void): Piece {
  const piece = makePiece('Crowd');
  const swarm = makeSwarm('sphere', []);
  Object.assign(swarm.emitter.dials, { radius: 3 });
  Object.assign(swarm.dials, { rate: 0, burst: count, lifetime: 100, size: 0.01 });
  piece.swarms.push(swarm);
  piece.stock = MADE.map((name) => ({
    id: name,
    name,
    type: made(name).type,
    source: { made: name },
  }));
  change(piece);
  return piece;
}

const engine = await CpuEngine.create({ threads: 2 });

/** Nanoseconds a particle: of a step, or of the first one, which gives birth to all. */
function cost(piece: Piece, count: number, births = false): number {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  engine.step();
  const times = best(births ? 3 : 4, () => {
    if (births) engine.reset();
    engine.step();
  });
  return (times * 1e6) / count;
}

const part = (shelf: 'forces' | 'colliders', kind: string) => {
  const made_ = makePart(shelf, kind, []);
  filled(catalogue[shelf].find((k) => k.kind === kind)!.dials, made_.dials);
  return made_;
};

const curl = cost(
  crowd(COUNT, (p) => p.forces.push(part('forces', 'curlNoise'))),
  COUNT,
);
const still = cost(
  crowd(COUNT, () => undefined),
  COUNT,
);
report('step without any force, against curl noise', still, 'ns each', curl);
for (const { kind } of catalogue.forces) {
  const count = kind === 'flocking' ? 100_000 : COUNT;
  const piece = crowd(count, (p) => {
    p.forces.push(part('forces', kind));
    if (kind === 'flocking') p.forces[0]!.dials.radius = 0.12;
  });
  report(
    `force ${kind}, ${String(count)} particles, against curl noise`,
    cost(piece, count),
    'ns each',
    curl,
  );
}
for (const { kind } of catalogue.colliders) {
  const count = kind === 'mesh' ? 500_000 : COUNT;
  const piece = crowd(count, (p) => {
    p.colliders.push(part('colliders', kind));
    p.forces.push(part('forces', 'gravity'));
  });
  report(
    `collider ${kind}, ${String(count)} particles, against curl noise`,
    cost(piece, count),
    'ns each',
    curl,
  );
}
for (const { kind, dials } of catalogue.emitters) {
  const piece = crowd(COUNT, (p) => {
    p.swarms[0]!.emitter = makeChoice('emitters', kind);
    filled(dials, p.swarms[0]!.emitter.dials);
    if (kind === 'swarm') p.swarms.unshift({ ...makeSwarm('sphere', []), id: 'parents' });
  });
  report(
    `births by emitter ${kind} with their first step, against curl noise`,
    cost(piece, COUNT, true),
    'ns each',
    curl,
  );
}
engine.close();

/** A knobbly ball of about 100,000 triangles. */
const ball = (): Mesh =>
  surface(
    316,
    158,
    (u, v) => {
      const [a, b] = [-2 * Math.PI * u, Math.PI * v];
      const r = 1 + 0.08 * Math.sin(9 * a) * Math.sin(7 * b);
      return [r * Math.sin(b) * Math.cos(a), -r * Math.cos(b), r * Math.sin(b) * Math.sin(a)];
    },
    { round: true },
  );
const triangles = ball().triangles.length / 3;
report(
  `table to sample a mesh of ${String(triangles)} triangles`,
  best(2, () => void facesByArea(ball())),
  'ms',
);
report(
  `distance field of it, 64 cells along`,
  best(1, () => void fieldOf(ball(), 64)),
  'ms',
);
