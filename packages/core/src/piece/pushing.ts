import { kindOf } from '../sections';
import type { ForceKind } from '../sections/kinds';
import { listsWhere, type PartList } from '../sections/lists';
import { influenceOf } from './influence';
import type { Part, Piece } from './types';

/** A part that pushes what moves: a force, or a part of a section from outside whose kinds are forces. */
export interface Pushing {
  part: Part;
  kind: ForceKind;
  /** The list that it stands in. */
  list: Exclude<PartList, 'swarms'>;
}

/** All parts that push, whether they are on or not, in the order of the sections. */
export function pushingIn(piece: Piece): Pushing[] {
  const lists = listsWhere((s) => s.pushes ?? false) as Pushing['list'][];
  return lists.flatMap((list) =>
    piece[list].map((part) => ({ part, kind: kindOf(list, part.kind) as ForceKind, list })),
  );
}

/** Those that are on and push a swarm or a medium, by its id. */
export function pushingOn(piece: Piece, id: string): Pushing[] {
  return pushingIn(piece).filter(({ part }) => part.on && influenceOf(piece, part.id, id) !== 0);
}
