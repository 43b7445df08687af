import { kindOf } from '../sections';
import type { Part, Piece } from './types';
import { freshName, makePart } from './create';

/** Metres before and behind a plane together; what goes that far has other reasons. */
const DEEP = 1000;

/**
 * A zone that is the box of a force's plane: what leaves it sideways dies. Null where the force has no plane.
 */
export function planeZone(piece: Piece, force: Part): Part | null {
  const plane = kindOf('forces', force.kind).plane?.(force.dials);
  if (!plane) return null;
  // Forces and colliders share the influence grid, and so their ids.
  const { forces, colliders } = piece;
  const part = makePart('colliders', 'box', [...forces, ...colliders]);
  const { centre, turn, width, height } = plane;
  Object.assign(part.dials, {
    centre,
    turn,
    size: [width, height, DEEP],
    acts: 'zone',
    side: 'outside',
    does: 'die',
    soft: 0,
  });
  return { ...part, name: freshName(`Edge of ${force.name}`, colliders) };
}
