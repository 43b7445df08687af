import type { Part, PartList, PartRef, Piece, Swarm } from '@vast-swarm/core/piece';
import { valueAt, type Path, type Tree } from './pieceEdits';

/** The parts that are selected, or what a piece has but one of. */
export type Selection =
  | {
      list: PartList;
      /** The part whose sheet is open. */
      id: string;
      /** Others of its list that are turned along with it. */
      also?: string[];
    }
  | { list: 'camera' | 'backdrop' | 'frame'; id: '' };

interface Selected {
  selection: Selection | null;
}

/** The parts that are selected. */
export function selectedParts({ selection }: Selected): PartRef[] {
  if (!selection || !('also' in selection || selection.id)) return [];
  const { list, id, also = [] } = selection as Extract<Selection, { also?: string[] }>;
  return [id, ...also].map((one) => ({ list, id: one }));
}

/** Whether it is one of these. */
export function isSelected(state: Selected, { list, id }: PartRef): boolean {
  return selectedParts(state).some((r) => r.list === list && r.id === id);
}

/**
 * The same place in the other parts that are selected, where they have it: parts of the same kind, and of swarms what
 * is of the same kind in them. A name is one's own.
 */
export function alongWith(state: Selected, piece: Piece, path: Path): Path[] {
  const [first, ...others] = selectedParts(state);
  const [list, at, ...inside] = path;
  if (!first || list !== first.list || inside[0] === 'name' || inside.length === 0) return [];
  const parts = partsOf(piece, first.list);
  if (parts[at as number]?.id !== first.id) return [];
  const kindAt = (index: number): unknown => {
    const depth =
      inside[0] === 'bodies' ? 2 : inside[0] === 'emitter' || inside[0] === 'launch' ? 1 : 0;
    const owner = valueAt(piece, [list, index]) as Tree;
    return inside
      .slice(0, depth)
      .reduce<unknown>((o, key) => (o as Tree | undefined)?.[key], owner);
  };
  const kindOf = (o: unknown): unknown => (o as { kind?: string } | undefined)?.kind;
  return others
    .map(({ id }) => parts.findIndex((p) => p.id === id))
    .filter((index) => {
      const [own, other] = [kindAt(at as number), kindAt(index)];
      return index >= 0 && other !== undefined && kindOf(own) === kindOf(other);
    })
    .map((index) => [list, index, ...inside]);
}

/** A list of the piece. */
export function partsOf(piece: Piece, list: PartList): (Swarm | Part)[] {
  return piece[list];
}

/** The selection, where it is there still; else the first swarm. */
export function selectionThere(piece: Piece, selection: Selection | null): Selection | null {
  if (!selection || !selection.id) return selection;
  const { list, id } = selection;
  if (partsOf(piece, list as PartList).some((p) => p.id === id)) return selection;
  const [first] = piece.swarms;
  return first ? { list: 'swarms', id: first.id } : null;
}
