import { makePiece, makeSwarm, type Piece } from '@vast-swarm/core/piece';

/** A box of particles that were all born at once, seen from 6 m, without any finish. */
export function crowd(count: number, change: (piece: Piece) => void): Piece {
  const piece = makePiece('Crowd');
  const swarm = makeSwarm('box', []);
  Object.assign(swarm.emitter.dials, { size: [7, 4, 2] });
  swarm.launch.dials.speed = 0.4;
  Object.assign(swarm.dials, { rate: 0, burst: count, lifetime: 100, size: 0.05, opacity: 0.5 });
  piece.swarms.push(swarm);
  piece.finish = [];
  change(piece);
  return piece;
}
