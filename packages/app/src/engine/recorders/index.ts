import type { RecordedList } from '@vast-swarm/core/kinds';
import type { LiveInput } from '@vast-swarm/core/plan';
import { MotionRecorder, type Coming, type MotionTake } from './motion';
import { PictureRecorder, type PicturePort, type PictureTake } from './pictures';
import type { Recorder } from './recording';
import { SoundRecorder, type SoundTake } from './sound';

/** The source of a live input, by the list of its part. */
export interface Incoming {
  pictures: { size: { width: number; height: number }; port: PicturePort };
  sounds: { rate: number; port: MessagePort };
  performers: Coming;
}

/** The take of a live input, by the list of its part. */
export interface Takes {
  pictures: PictureTake;
  sounds: SoundTake;
  performers: MotionTake;
}

/** A take of a list that is whole; null where nothing was recorded. */
export type Taken = { [L in RecordedList]: { list: L; take: Takes[L] | null } }[RecordedList];

type Recorders = {
  [L in RecordedList]: (part: string, from: Incoming[L]) => Recorder<LiveInput, Takes[L]>;
};

/** Who records what comes in, in the order in which a frame waits for it. */
export const RECORDERS: Recorders = {
  pictures: (part, from) => new PictureRecorder(part, from),
  sounds: (part, from) => new SoundRecorder(part, from),
  performers: (part, from) => new MotionRecorder(part, from),
};
