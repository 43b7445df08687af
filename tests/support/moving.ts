import { makeChoice, type Piece } from '@vast-swarm/core';
import { smallPiece } from './pieces';

/** A small piece whose particles start where a picture that changes is bright, and stay there. */
export function movingPiece(): Piece {
  return smallPiece((p) => {
    const swarm = p.swarms[0]!;
    swarm.emitter = makeChoice('emitters', 'picture');
    swarm.emitter.dials.picture = 'wanderingLight';
    swarm.launch.dials.speed = 0;
    swarm.dials.lifetime = 60;
    p.forces = [];
  });
}
