import type { Piece } from './types';

/** How much of a force or collider a swarm or a medium feels. */
export function influenceOf(piece: Piece, part: string, swarm: string): number {
  return piece.influence[part]?.[swarm] ?? 1;
}
