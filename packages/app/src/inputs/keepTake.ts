import { fileNameOf, wavBytes } from '@vast-swarm/core/formats';
import { freshIdIn, freshName, type Piece } from '@vast-swarm/core/piece';
import type { Camera } from '../camera/camera';
import { entryOf } from '../data/chosen';
import { saveAs } from '../data/files';
import { importStock } from '../data/stock';
import type { HeardTake } from '../engine/ear';
import type { SeenTake } from '../engine/eye';
import type { Recorded } from '../engine/recording';
import type { PerformedTake } from '../engine/troupe';
import { motionFile } from '../reading/motionFile';
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
  part: { list: Recorded; id: string; start: number },
  { blob, ending }: { blob: Blob; ending: string },
): Promise<boolean> {
  const title = openPiece(id)?.[part.list].find((s) => s.id === part.id)?.name ?? 'Live input';
  const name = freshName(`${title}, take`, openPiece(id)?.stock ?? []);
  const file = new File([blob], `${fileNameOf(name)}.${ending}`, { type: blob.type });
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
  const wav = { blob: new Blob([wavBytes(take)], { type: 'audio/wav' }), ending: 'wav' };
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
    await keepFile(id, part, { blob: new Blob([bytes], { type: 'video/webm' }), ending: 'webm' });
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    told(`What the camera saw could not be kept (${why}).`, 'wrong');
  }
}

/** Keeps what was recorded of live performers. */
export async function keepMotion(id: string, taken: PerformedTake): Promise<void> {
  const { performer, start, motion, full } = taken;
  try {
    const blob = await motionFile('take', motion, 'csv');
    await keepFile(id, { list: 'performers', id: performer, start }, { blob, ending: 'csv' });
    if (full)
      told('The take ended before you did: it has five million rows, which is the most.', 'note');
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    told(`How they moved could not be kept (${why}).`, 'wrong');
  }
}
