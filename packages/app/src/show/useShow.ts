import { useEffect, useState } from 'react';
import { PieceError, validateShow, type Piece, type Show } from '@vast-swarm/core';
import { library } from '../data/db';
import { followSeeded } from '../data/pieces';
import { piecesOf } from '../data/shows';

/** A show, with those of its pieces that are there, by id. */
export interface OpenShow {
  show: Show;
  pieces: ReadonlyMap<string, Piece>;
}

/** A show as it is stored, with its pieces: kept up to date. */
export function useShow(id: string): { open: OpenShow | null; trouble: string | null } {
  const [open, setOpen] = useState<OpenShow | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    const failed = (error: unknown): void => {
      const why = error instanceof Error ? error.message : String(error);
      const what = error instanceof PieceError ? 'It cannot be read' : 'Storage cannot be read';
      setTrouble(`${what}: ${why}`);
    };
    const query = async (): Promise<OpenShow | null> => {
      const stored = await library.shows.get(id);
      if (!stored) return null;
      const show = validateShow(stored.show);
      return { show, pieces: await piecesOf(show) };
    };
    const next = (found: OpenShow | null): void => {
      setOpen(found);
      setTrouble(
        found
          ? null
          : 'There is no show at this address. It may have been removed, or it is kept in another browser.',
      );
    };
    return followSeeded(query, next, failed);
  }, [id]);
  return { open, trouble };
}
