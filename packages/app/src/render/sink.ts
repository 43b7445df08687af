import type { Frame } from '@vast-swarm/cpu';

/** Where frames go. */
export interface Sink {
  add(frame: Frame, number: number): Promise<void>;
  /** The finished file; null where frames went into a folder. */
  finish(): Promise<Blob | null>;
  /** What the artist should know of the file. */
  note?: string;
  cancel(): Promise<void>;
}
