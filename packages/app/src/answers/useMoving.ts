import { useMemo } from 'react';
import { kindOf } from '@vast-swarm/core/kinds';
import type { MovingPicture } from '@vast-swarm/core/stock';
import type { Part } from '@vast-swarm/core/piece';
import { useStockData } from '../stock/useStockData';
import { usePiece } from '../store/store';

/** A moving picture of the piece, to be looked at beside the engine; undefined until its clip has been read. */
export function useMoving({ kind, dials }: Part): MovingPicture | undefined {
  const piece = usePiece();
  const made = kindOf('pictures', kind);
  const { plays } = made;
  const clip = plays === undefined ? '' : (dials[plays] as string);
  const data = useStockData(piece, clip);
  const { seed } = piece;
  const { rate } = piece.frame;
  return useMemo(
    () =>
      made.moving(dials, { rate, seed, stock: (id) => (id === clip && data ? data : undefined) }),
    [made, dials, rate, seed, clip, data],
  );
}
