import { noticed, dismissed } from '../store/noticeSlice';
import { store } from '../store/store';
import { savePiece } from './pieces';

const PAUSE = 200;

/** Keeps the open piece in the browser's storage as it changes. Gives a function that stops it. */
export function autosave(): () => void {
  let saved = store.getState().piece.piece;
  let timer: ReturnType<typeof setTimeout> | null = null;
  const save = async (): Promise<void> => {
    timer = null;
    const { id, piece } = store.getState().piece;
    if (!id || !piece || piece === saved) return;
    saved = piece;
    try {
      await savePiece(id, piece);
      store.dispatch(dismissed('storage'));
    } catch (error) {
      const why =
        error instanceof Error && error.name.includes('Quota') ? 'is full' : 'is not available';
      const message = `The browser's storage ${why}: changes are not saved. Export the piece to keep them.`;
      store.dispatch(noticed({ key: 'storage', kind: 'wrong', message, action: 'export' }));
    }
  };
  const flush = (): void => {
    if (timer !== null) clearTimeout(timer);
    void save();
  };
  const stop = store.subscribe(() => {
    const { piece } = store.getState().piece;
    if (!piece || piece === saved || timer !== null) return;
    timer = setTimeout(() => void save(), PAUSE);
  });
  window.addEventListener('pagehide', flush);
  document.addEventListener('visibilitychange', flush);
  return () => {
    stop();
    window.removeEventListener('pagehide', flush);
    document.removeEventListener('visibilitychange', flush);
    flush();
  };
}
