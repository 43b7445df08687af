import type { Expr } from '@vast-swarm/kernel';
import { Owner } from '../../language/names';
import { influenceOf } from '../../piece/influence';
import type { Part, Piece } from '../../piece/types';
import type { SceneBuilder } from '../scene';

/** How much of a force or collider a swarm or a medium feels. */
export function feltOf(builder: SceneBuilder, { id }: Part, by: string): Expr {
  const felt = new Owner('influence', id).own('felt');
  return builder.uniform(felt, influenceOf(builder.scene.piece, id, by));
}

/** The solids or the zones that a swarm or a medium feels. */
export function collidersOn(piece: Piece, by: string, acts: 'solid' | 'zone'): Part[] {
  return piece.colliders.filter(
    (c) => c.on && c.dials.acts === acts && influenceOf(piece, c.id, by) !== 0,
  );
}
