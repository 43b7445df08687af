import { useEffect, useState } from 'react';
import { PieceError, type Piece } from '@vast-swarm/core/piece';
import type { Show } from '@vast-swarm/core/show';
import { followSeeded } from '../data/pieces';
import { heldListeners, keepPendingShow, piecesOf, showOf } from '../data/shows';

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
      const show = await showOf(id);
      return show ? { show, pieces: await piecesOf(show) } : null;
    };
    const next = (found: OpenShow | null): void => {
      setOpen(found);
      setTrouble(
        found
          ? null
          : 'There is no show at this address. It may have been removed, or it is kept in another browser.',
      );
    };
    keepPendingShow(id).catch(failed);
    const stop = followSeeded(query, next, failed);
    // What the storage does not have yet is shown all the same.
    const stopHeld = heldListeners.add(() => void query().then(next, failed));
    return () => {
      stop();
      stopHeld();
    };
  }, [id]);
  return { open, trouble };
}
