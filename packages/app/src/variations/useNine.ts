import { useMemo } from 'react';
import { crossed, NINE, variationOf, type Piece, type Turning } from '@vast-swarm/core/piece';
import { useApp, usePiece } from '../store/store';
import type { Varying } from '../store/toolSlice';

export interface Neighbour {
  number: number;
  /** In words. */
  name: string;
  piece: Piece;
}

/** The neighbours of the open piece that are shown. */
export function useNine(varying: Varying): readonly Neighbour[] {
  const piece = usePiece();
  const locked = useApp((s) => s.tools.locked);
  const chosen = useApp(
    ({ piece: { selection } }) => selection && (selection.id || selection.list),
  );
  const { first, reach, groups, only, parents } = varying;
  return useMemo(() => {
    const parts = only && chosen ? [chosen] : undefined;
    const turning: Turning = { reach, groups, locked, parts };
    const one = (number: number): Neighbour => {
      const name = `Variation ${String(number)}`;
      if (!parents) return { number, name, piece: variationOf(piece, number, turning) };
      const [a, b] = parents.map((n) => variationOf(piece, n, turning)) as [Piece, Piece];
      const of = `Variations ${parents.join(' and ')}, crossing ${String(number)}`;
      return { number, name: of, piece: crossed(a, b, number) };
    };
    return Array.from({ length: NINE }, (_, i) => one(first + i));
  }, [piece, locked, chosen, first, reach, groups, only, parents]);
}
