import { fileNameOf } from '@vast-swarm/core/formats';
import type { RecordedList } from '@vast-swarm/core/kinds';
import { freshIdIn, freshName, type Piece } from '@vast-swarm/core/piece';
import { entryOf } from '../data/chosen';
import { saveAs } from '../data/files';
import { importStock } from '../data/stock';
import { noticed } from '../store/noticeSlice';
import { pieceActions } from '../store/pieceSlice';
import { store } from '../store/store';

/** Tells the artist what became of a take. */
export function tellOfTake(message: string, kind: 'note' | 'wrong'): void {
  store.dispatch(noticed({ key: 'take', kind, message }));
}

/** The piece of an id, where it is open. */
export function openPiece(id: string): Piece | null {
  const state = store.getState().piece;
  return state.id === id ? state.piece : null;
}

/** Takes what was recorded of a part into the stock, and into the piece where it is open; whether it is there. */
export async function keepFile(
  id: string,
  part: { list: RecordedList; id: string; start: number },
  { blob, ending }: { blob: Blob; ending: string },
): Promise<boolean> {
  const title = openPiece(id)?.[part.list].find((s) => s.id === part.id)?.name ?? 'Live input';
  const name = freshName(`${title}, take`, openPiece(id)?.stock ?? []);
  const file = new File([blob], `${fileNameOf(name)}.${ending}`, { type: blob.type });
  const item = await importStock(file).catch((error: unknown) => {
    // There is nothing else that has it.
    saveAs(file, file.name);
    const why = error instanceof Error ? error.message : String(error);
    tellOfTake(
      `The take cannot be stored (${why}); it was saved as ${file.name} instead.`,
      'wrong',
    );
    return null;
  });
  const piece = openPiece(id);
  if (!item || !piece) return false;
  const entry = { ...entryOf(item), name, id: freshIdIn(piece, 'stock', 'take') };
  store.dispatch(pieceActions.recorded({ ...part, entry }));
  return true;
}
