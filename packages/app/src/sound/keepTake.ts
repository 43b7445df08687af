import { freshPictureId, freshName, wavBytes, type Piece } from '@vast-swarm/core';
import { entryOf } from '../data/chosen';
import { fileNameOf, saveAs } from '../data/files';
import { importStock } from '../data/stock';
import type { HeardTake } from '../engine/ear';
import { noticed } from '../store/noticeSlice';
import { pieceActions } from '../store/pieceSlice';
import { store } from '../store/store';

/** Less that was left out is not worth telling, in seconds. */
const HARDLY = 0.02;

function told(message: string, kind: 'note' | 'wrong'): void {
  store.dispatch(noticed({ key: 'take', kind, message }));
}

/** Takes what was recorded of a sound into the stock, and into the piece that is open. */
export async function keepTake(id: string, { sound, start, take, lost }: HeardTake): Promise<void> {
  const open = (): Piece | null => {
    const state = store.getState().piece;
    return state.id === id ? state.piece : null;
  };
  const title = open()?.sounds.find((s) => s.id === sound)?.name ?? 'Live input';
  const name = freshName(`${title}, take`, open()?.stock ?? []);
  const file = new File([wavBytes(take)], `${fileNameOf(name)}.wav`, { type: 'audio/wav' });
  const item = await importStock(file).catch((error: unknown) => {
    // There is nothing else that has it.
    saveAs(file, file.name);
    const why = error instanceof Error ? error.message : String(error);
    told(`The take cannot be stored (${why}); it was saved as ${file.name} instead.`, 'wrong');
    return null;
  });
  const piece = open();
  if (!item || !piece) return;
  const entry = { ...entryOf(item), name, id: freshPictureId('take', piece) };
  store.dispatch(pieceActions.recorded({ sound, entry, start }));
  if (lost < HARDLY) return;
  const seconds = lost.toFixed(2);
  told(
    `The picture could not keep up: ${seconds} s of what came in are not in the take. A smaller preview or fewer particles help.`,
    'note',
  );
}
