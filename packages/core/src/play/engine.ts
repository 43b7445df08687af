import type { Plan } from '../plan/plan';

/** A state that was kept; only the engine that made it knows what is inside. */
export interface Snapshot {
  readonly frame: number;
  readonly bytes: number;
  /** Whether it also holds what the finish remembers of the frame before. */
  readonly remembers: boolean;
  release(): void;
}

/**
 * What runs a plan. The state at frame n is that at the end of the frame's time, (n + 1) / rate; it
 * depends on the piece and n alone, however it was reached.
 */
export interface Engine {
  /** The frame of the state; before the first step one less than the first frame. */
  readonly frame: number;
  /** Whether the frame before this one has been drawn, where the finish depends on it. */
  readonly remembers: boolean;
  /** Takes a new plan. States of swarms that are still there go on where they are. */
  setPlan(plan: Plan): void;
  /** Back to before the first frame. */
  reset(): void;
  /** One frame on. */
  step(): void;
  /** To any frame at once, where all motion is stored; false where some is not. */
  jump(frame: number): boolean;
  save(): Snapshot;
  restore(snapshot: Snapshot): void;
}
