import { compilePiece } from '@vast-swarm/core/plan';
import { makePart, makePiece, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import { CpuEngine } from '@vast-swarm/cpu';
import { best, report } from './report';

/** What a medium costs: a step by itself, and what swarms leave in it. */

const WANTED = { step: 12, leave: 3 };
const LINES = 288;

function water(change: (piece: Piece) => void = () => undefined): Piece {
  const piece = makePiece('Water');
  Object.assign(piece.frame, { width: 1024, height: 576, rate: 60 });
  piece.media = [makePart('media', 'fluid', [])];
  Object.assign(piece.media[0]!.dials, { lines: LINES, hand: 1, handX: 0.2, stir: 0, tint: 0 });
  piece.media[0]!.dials.give = 0;
  change(piece);
  return piece;
}

function stirred(count: number): Piece {
  return water((piece) => {
    const swarm = makeSwarm('rectangle', []);
    Object.assign(swarm.emitter.dials, { width: 6, depth: 3, turn: [90, 0, 0] });
    Object.assign(swarm.dials, { when: 'bursts', burst: count, lasts: 'ever' });
    piece.swarms = [swarm];
    Object.assign(piece.media[0]!.dials, { stir: 4, tint: 1, give: 1, radius: 0.03 });
  });
}

const engine = await CpuEngine.create({ threads: 2 });

/** Milliseconds of a step that media take. */
function cost(piece: Piece): number {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  for (let i = 0; i < 20; i++) engine.step();
  let least = Infinity;
  best(40, () => {
    engine.step();
    least = Math.min(least, engine.times.media);
  });
  return least;
}

const alone = cost(water());
report('medium of 512×288, a step with pressure, 2 threads', alone, 'ms', WANTED.step);
const closed = cost(water((p) => (p.media[0]!.dials.edges = 'closed')));
report('medium with closed edges: sums kept', closed, 'ms', alone);
const swirling = cost(
  water((p) => {
    p.forces = [makePart('forces', 'curlNoise', [])];
  }),
);
report('medium that feels curl noise', swirling, 'ms', alone);
const walled = cost(
  water((p) => {
    p.colliders = [makePart('colliders', 'sphere', [])];
  }),
);
report('medium round a solid', walled, 'ms', alone);
report('medium: what 50,000 particles leave', cost(stirred(50_000)) - alone, 'ms', WANTED.leave);
engine.close();
