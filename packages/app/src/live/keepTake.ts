import { freshIdIn, freshName, wavBytes, type Piece } from '@vast-swarm/core';
import type { Camera } from '../camera/camera';
import { entryOf } from '../data/chosen';
import { fileNameOf, saveAs } from '../data/files';
import { importStock } from '../data/stock';
import type { HeardTake } from '../engine/ear';
import type { SeenTake } from '../engine/eye';
import { noticed } from '../store/noticeSlice';
import { pieceActions } from '../store/pieceSlice';
import { store } from '../store/store';

/** Less that was left out is not worth telling, in seconds. */
const HARDLY = 0.02;

function told(message: string, kind: 'note' | 'wrong'): void {
  store.dispatch(noticed({ key: 'take', kind, message }));
}

/** The piece of an id, where it is open. */
function openPiece(id: string): Piece | null {
  const state = store.getState().piece;
  return state.id === id ? state.piece : null;
}

/** Takes what was recorded of a part into the stock, and into the piece where it is open; whether it is there. */
async function keepFile(
  id: string,
  part: { list: 'sounds' | 'pictures'; id: string; start: number },
  { bytes, ending, type }: { bytes: Uint8Array<ArrayBuffer>; ending: string; type: string },
): Promise<boolean> {
  const title = openPiece(id)?.[part.list].find((s) => s.id === part.id)?.name ?? 'Live input';
  const name = freshName(`${title}, take`, openPiece(id)?.stock ?? []);
  const file = new File([bytes], `${fileNameOf(name)}.${ending}`, { type });
  const item = await importStock(file).catch((error: unknown) => {
    // There is nothing else that has it.
    saveAs(file, file.name);
    const why = error instanceof Error ? error.message : String(error);
    told(`The take cannot be stored (${why}); it was saved as ${file.name} instead.`, 'wrong');
    return null;
  });
  const piece = openPiece(id);
  if (!item || !piece) return false;
  const entry = { ...entryOf(item), name, id: freshIdIn(piece, 'stock', 'take') };
  store.dispatch(pieceActions.recorded({ ...part, entry }));
  return true;
}

/** Keeps what was recorded of a sound. */
export async function keepSound(
  id: string,
  { sound, start, take, lost }: HeardTake,
): Promise<void> {
  const part = { list: 'sounds', id: sound, start } as const;
  const wav = { bytes: wavBytes(take), ending: 'wav', type: 'audio/wav' };
  if (!(await keepFile(id, part, wav)) || lost < HARDLY) return;
  const seconds = lost.toFixed(2);
  told(
    `The picture could not keep up: ${seconds} s of what came in are not in the take. A smaller preview or fewer particles help.`,
    'note',
  );
}

/** Keeps what was recorded of a camera. */
export async function keepPictures(id: string, camera: Camera, seen: SeenTake): Promise<void> {
  const { picture, start, begins } = seen;
  const rate = openPiece(id)?.frame.rate ?? 30;
  try {
    const bytes = await camera.take(begins, rate);
    const part = { list: 'pictures', id: picture, start } as const;
    await keepFile(id, part, { bytes, ending: 'webm', type: 'video/webm' });
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    told(`What the camera saw could not be kept (${why}).`, 'wrong');
  }
}
