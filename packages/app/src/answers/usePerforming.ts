import { useMemo } from 'react';
import { kindOf } from '@vast-swarm/core/kinds';
import type { Part } from '@vast-swarm/core/piece';
import type { Performing } from '@vast-swarm/core/stock';
import { useStockData } from '../stock/useStockData';
import { usePiece } from '../store/store';

/** A performer of the piece, to be looked at beside the engine; undefined until their motion has been read. */
export function usePerforming(part: Part | undefined): Performing | undefined {
  const piece = usePiece();
  const kind = part && kindOf('performers', part.kind);
  const motion = kind ? (part.dials[kind.plays] as string) : '';
  const data = useStockData(piece, motion);
  const { rate } = piece.frame;
  const dials = part?.dials;
  return useMemo(
    () =>
      dials &&
      kind?.performing(dials, { rate, stock: (id) => (id === motion && data) || undefined }),
    [kind, dials, rate, motion, data],
  );
}
