import { listsWhere } from '../sections/lists';
import type { Section } from '../sections/section';
import { thereAre } from './thereAre';
import type { Part, Piece } from './types';

type Side = NonNullable<Section['influence']>;

/** How much of a force or collider a swarm or a medium feels. */
export function influenceOf(piece: Piece, part: string, swarm: string): number {
  return piece.influence[part]?.[swarm] ?? 1;
}

/** All parts on one side of the influence grid: what is felt, or the swarms and media that feel it. */
export function partsThat(piece: Piece, side: 'felt'): Part[];
export function partsThat(piece: Piece, side: Side): Pick<Part, 'id' | 'name' | 'on'>[];
export function partsThat(piece: Piece, side: Side): Pick<Part, 'id' | 'name' | 'on'>[] {
  return listsWhere((s) => s.influence === side).flatMap(
    (list): Pick<Part, 'id' | 'name' | 'on'>[] => piece[list],
  );
}

/** Influence of what is not there, or on what is not there. */
export function influenceProblems(piece: Piece): { path: string[]; message: string }[] {
  const [felt, feeling] = [
    partsThat(piece, 'felt').map((p) => p.id),
    partsThat(piece, 'feels').map((p) => p.id),
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
