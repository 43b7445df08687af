import type { Plan } from '@vast-swarm/core/plan';
import type { Frame } from '@vast-swarm/core/formats';
import type { CpuEngine } from '@vast-swarm/cpu';

/** Where frames go. */
export interface Sink {
  /** Whether frames are drawn for it at all, and whether it wants their light. */
  wants: { drawn: boolean; light: boolean };
  /** Hears of the plan before the first frame. */
  begin?(plan: Plan): void;
  /** Whether a frame is there already, as of a render that was ended. */
  has?(frame: number): boolean;
  /** Takes the frame that the engine is at; drawn, where that is wanted. */
  add(engine: CpuEngine, drawn: Frame | null): Promise<void>;
  /** The finished file; null where frames went into a folder. */
  finish(): Promise<Blob | null>;
  /** A word for the artist on the file. */
  note?: string;
  cancel(): Promise<void>;
}
