import type { MotionTake } from '../engine/recorders/motion';
import { Joints } from '../joints/joints';
import { motionFile } from '../reading/motionFile';
import type { Input } from './input';
import { keepFile, tellOfTake } from './keepTake';

/** Joints of performers that come in over the server or from a stand-in; their takes are tables of joints. */
export const performers: Input<Joints, MotionTake> = {
  open: () => new Joints(),
  async keep(id, taken) {
    if (!taken) return;
    const { part, start, motion, full } = taken;
    try {
      const blob = await motionFile('take', motion, 'csv');
      await keepFile(id, { list: 'performers', id: part, start }, { blob, ending: 'csv' });
      if (!full) return;
      const message = 'The take ended before you did: it has five million rows, which is the most.';
      tellOfTake(message, 'note');
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      tellOfTake(`How they moved could not be kept (${why}).`, 'wrong');
    }
  },
};
