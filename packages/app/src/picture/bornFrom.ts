import { bornFromFile } from '../data/chosen';
import { noticed } from '../store/noticeSlice';
import { pieceActions } from '../store/pieceSlice';
import { store } from '../store/store';

/** Adds a swarm for each file, born from it, and a sound for each that is heard; what is wrong with a file is told. */
export async function bornFrom(files: Iterable<File>): Promise<void> {
  // One after the other: each gets an id that those before it left free.
  for (const file of [...files]) {
    try {
      const { entry, swarm, heard } = await bornFromFile(file, () => store.getState().piece.piece!);
      if (heard) store.dispatch(pieceActions.heard(heard));
      if (swarm) store.dispatch(pieceActions.bornFrom({ entry, swarm }));
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error);
      store.dispatch(noticed({ key: 'stock', kind: 'wrong', message }));
    }
  }
}
