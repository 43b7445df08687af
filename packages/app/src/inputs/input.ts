import type { LiveDevice } from '../live/liveDevice';

/** A live input on its way into a piece: the device that it comes from, and what becomes of its takes. */
export interface Input<D extends LiveDevice<unknown>, T> {
  open: () => D;
  /** Keeps a take of the piece of an id; null: nothing was recorded. What goes wrong is told to the artist. */
  keep: (id: string, take: T | null, device: D) => Promise<void>;
}
