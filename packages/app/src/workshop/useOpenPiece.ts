import { useEffect, useState } from 'react';
import { PieceError } from '@vast-swarm/core/piece';
import { autosave } from '../data/autosave';
import { openPiece } from '../data/pieces';
import { pieceActions } from '../store/pieceSlice';
import { useApp, useAppDispatch } from '../store/store';

/** Opens a stored piece in the store while a view is shown, and saves it as it changes. */
export function useOpenPiece(id: string): { open: boolean; trouble: string | null } {
  const dispatch = useAppDispatch();
  const open = useApp((s) => s.piece.id === id && s.piece.piece !== null);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    let stop: (() => void) | null = null;
    openPiece(id)
      .then((opened) => {
        if (!current) return;
        if (opened) {
          dispatch(pieceActions.opened({ id, piece: opened.piece }));
          stop = autosave(id, opened);
        } else
          setTrouble(
            'There is no piece at this address. It may have been removed, or it is kept in another browser.',
          );
      })
      .catch((error: unknown) => {
        if (!current) return;
        const why = error instanceof Error ? error.message : String(error);
        const what =
          error instanceof PieceError
            ? 'The stored piece cannot be read'
            : "The browser's storage cannot be read";
        setTrouble(`${what}: ${why}`);
      });
    return () => {
      current = false;
      stop?.();
      dispatch(pieceActions.closed());
    };
  }, [id, dispatch]);
  return { open, trouble };
}
