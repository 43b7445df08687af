import { makeChoice, makePart, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from './pieces';

/** A small piece whose particles start where a picture that changes is bright, and stay there. */
export function movingPiece(): Piece {
  return smallPiece((p) => {
    const swarm = p.swarms[0]!;
    swarm.emitter = makeChoice('emitters', 'picture');
    p.pictures = [makePart('pictures', 'played', [])];
    p.pictures[0]!.dials.clip = 'wanderingLight';
    swarm.emitter.dials.picture = 'played';
    swarm.launch.dials.speed = 0;
    swarm.dials.lifetime = 60;
    p.forces = [];
  });
}
