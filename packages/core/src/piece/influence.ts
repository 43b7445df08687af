import { thereAre } from './thereAre';
import type { Piece } from './types';

/** How much of a force or collider a swarm or a medium feels. */
export function influenceOf(piece: Piece, part: string, swarm: string): number {
  return piece.influence[part]?.[swarm] ?? 1;
}

/** Influence of what is not there, or on what is not there. */
export function influenceProblems(piece: Piece): { path: string[]; message: string }[] {
  const [felt, feeling] = [
    [...piece.forces, ...piece.colliders].map((p) => p.id),
    [...piece.swarms, ...piece.media].map((p) => p.id),
  ];
  return Object.entries(piece.influence).flatMap(([part, row]) => {
    if (!felt.includes(part)) {
      const message = `there is no force or collider '${part}'; ${thereAre(felt, 8)}`;
      return [{ path: ['influence', part], message }];
    }
    return Object.keys(row)
      .filter((id) => !feeling.includes(id))
      .map((id) => ({
        path: ['influence', part, id],
        message: `there is no swarm or medium '${id}'; ${thereAre(feeling, 8)}`,
      }));
  });
}
