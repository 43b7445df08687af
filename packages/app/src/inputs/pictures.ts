import { Camera } from '../camera/camera';
import type { PictureTake } from '../engine/recorders/pictures';
import type { Input } from './input';
import { keepFile, openPiece, tellOfTake } from './keepTake';

/** Pictures from a camera; its takes are WebM files. */
export const pictures: Input<Camera, PictureTake> = {
  open: () => new Camera(),
  async keep(id, taken, camera) {
    if (!taken) {
      camera.settle();
      return;
    }
    const { part, start, begins } = taken;
    const rate = openPiece(id)?.frame.rate ?? 30;
    try {
      const bytes = await camera.take(begins, rate);
      const blob = new Blob([bytes], { type: 'video/webm' });
      await keepFile(id, { list: 'pictures', id: part, start }, { blob, ending: 'webm' });
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      tellOfTake(`What the camera saw could not be kept (${why}).`, 'wrong');
    }
  },
};
