import type { DialPlace, Piece } from '@vast-swarm/core/piece';
import type { Selection } from '../../store/selection';

/** The part that a dial belongs to. */
export interface Owner {
  name: string;
  selection: Selection;
}

/** Whose dial it is, of those that can be selected. */
export function ownerOf(piece: Piece, path: DialPlace['path']): Owner {
  const [list, at] = path as [keyof Piece, number];
  if (list === 'camera') return { name: 'Camera', selection: { list, id: '' } };
  if (list === 'backdrop') return { name: 'Backdrop', selection: { list, id: '' } };
  const part = (piece[list] as { id: string; name: string }[])[at]!;
  return { name: part.name, selection: { list, id: part.id } as Selection };
}
