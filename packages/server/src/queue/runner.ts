import type { RenderJob } from '@vast-swarm/core/formats';
import { z } from 'zod';

export const stepSchema = z.object({
  frame: z.int(),
  /** Frames that are done, of those that were not there when it began. */
  done: z.int(),
  total: z.int(),
  perSecond: z.number(),
  secondsLeft: z.number(),
});
/** How far a render has come since it was begun. */
export type Step = z.infer<typeof stepSchema>;

/** How it ended by itself: with everything made, or for a reason. */
export type Outcome = { made: true } | { made: false; problem: string };

export interface Run {
  /** Resolves when it has ended, by itself or because it was stopped; where it rejects, it has failed. */
  ended: Promise<Outcome>;
  /** Ends it in order: what is made stays, and nothing half-made does. */
  stop: () => void;
  /** The stretches in which it is made, where several work at it, with how many frames of each are there. */
  chunks?: () => NonNullable<RenderJob['chunks']>;
}

/** Who makes what a render was ordered to be. */
export type Runner = (job: RenderJob, step: (step: Step) => void) => Run;
