import { signalNames, type Part, type Piece } from '@vast-swarm/core/piece';

/** The names of what a signal gives: of its parts, where it has several. */
export function partsOf(piece: Piece, { id }: Part): string[] {
  const names = signalNames(piece).map((s) => s.id);
  return names.filter((name) => name === id || name.startsWith(`${id}.`));
}
