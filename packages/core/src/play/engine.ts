import type { Particles } from './particles';
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
 * Runs a plan. The state at frame n is that at the end of the frame's time, (n + 1) / rate; it
 * depends on the piece and n alone, however it was reached.
 *
 * @example
 * const engine = await CpuEngine.create({ threads: 2 });
 * engine.setPlan(compilePiece(piece, { files }));
 * while (engine.frame < 40) {
 *   await engine.ready();
 *   engine.step();
 * }
 * const { pixels } = engine.draw(1920, 1080);
 * engine.close();
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
  /** Resolves when the tracks are at hand that the next step takes, and the picture before it. */
  ready(): Promise<void>;
  /** One frame on. Tracks that come from afar have to be ready. */
  step(): void;
  /** To any frame at once, where all motion is stored; false where some is not. */
  jump(frame: number): boolean;
  save(): Snapshot;
  restore(snapshot: Snapshot): void;
}

/** An engine that shows its frames on the picture's canvas. */
export interface LiveEngine extends Engine {
  readonly kind: 'cpu' | 'gpu';
  readonly threads: number;
  readonly times: Readonly<Record<string, number>>;
  readonly memoryBytes: number;
  /**
   * Draws the state; resolves when the frame is on its way to the screen.
   *
   * @param moments most moments that are drawn while the shutter is open
   */
  show(width: number, height: number, moments: number): Promise<void>;
  aliveBy(): Readonly<Record<string, number>>;
  /** All that is to be known of a swarm's particles, by slot. */
  particles(id: string): Promise<Particles>;
  /** A plane of a medium, with its rim; see MediumSpace. */
  mediumPlane(id: string, name: string): Promise<Float32Array>;
  /** The whole state of a swarm: the slots in use, in the order of SwarmPlan.state. */
  stateOf(id: string): Promise<Float32Array[]>;
  /** Ids below this have been born. */
  born(id: string): number;
  recover(): Promise<void>;
  crash(): void;
}
