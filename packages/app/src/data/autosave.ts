import { noticed, dismissed } from '../store/noticeSlice';
import { store } from '../store/store';
import { savePiece } from './pieces';

/** Keeps the open piece in the browser's storage as it changes. Gives a function that stops it. */
export function autosave(): () => void {
  let saved = store.getState().piece.piece;
  let saving = false;
  /** Saves at once; what changes meanwhile is saved right after, so that a reload loses nothing. */
  const save = async (): Promise<void> => {
    const { id, piece } = store.getState().piece;
    if (saving || !id || !piece || piece === saved) return;
    saving = true;
    saved = piece;
    try {
      await savePiece(id, piece);
      store.dispatch(dismissed('storage'));
    } catch (error) {
      const full = error instanceof Error && error.name.includes('Quota');
      const message = `The browser's storage ${full ? 'is full' : 'is not available'}: changes are not saved. Export the piece to keep them.`;
      store.dispatch(noticed({ key: 'storage', kind: 'wrong', message, action: 'export' }));
    }
    saving = false;
    await save();
  };
  const stop = store.subscribe(() => void save());
  return () => {
    stop();
    const { id, piece } = store.getState().piece;
    if (id && piece && piece !== saved) void savePiece(id, piece);
  };
}
