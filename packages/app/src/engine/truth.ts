import type { LiveEngine, Playback } from '@vast-swarm/core/play';

/** Part of a frame's time that is taken for it even where playing leaves none. */
const LEAST = 0.1;

/**
 * Makes the state right after an edit while the piece plays: at once where that is soon done, else beside
 * what is shown, with what time playing leaves.
 */
export class Truth {
  /** Milliseconds that an edit may take to be shown true at once while the piece plays. */
  static soon = 100;
  /** Milliseconds of one step, as measured. */
  private step = 0;
  /** Milliseconds in which the states change places and change back, as measured. */
  private swap = 0;
  /** Steps from the start to the frame at which an edit came; 0 when that has been seen to. */
  private owed = 0;

  constructor(
    private readonly playback: Playback,
    private readonly engine: LiveEngine,
  ) {}

  /** Milliseconds that a step takes, about. */
  get stepTime(): number {
    return this.step;
  }

  learn(step: number): void {
    this.step = this.step === 0 ? step : 0.8 * this.step + 0.2 * step;
  }

  /** @param steps from the start to the present frame */
  edited(steps: number): void {
    this.owed = this.playback.exact ? 0 : steps;
    this.swap = 0;
  }

  /** Makes it right now, if that is expected to be soon done. */
  async atOnce(): Promise<void> {
    const steps = this.owed;
    this.owed = 0;
    if (steps === 0 || steps * this.step > Truth.soon) return;
    await this.playback.mend(this.after(Truth.soon));
  }

  /** Goes on with it for the time that is left of a frame. */
  async beside(left: number, frame: number): Promise<void> {
    if (this.playback.exact) return;
    const time = Math.max(left - 1, LEAST * frame);
    // Where even to change places takes longer than that, playing would stutter for nothing.
    if (this.swap > frame) return;
    await this.playback.mend(this.after(time));
  }

  /** A device takes its steps later: they count as what they were measured to take. */
  private after(milliseconds: number): () => boolean {
    const begin = performance.now();
    let steps = 0;
    return () => {
      const passed = performance.now() - begin;
      // Asked for the first time half of it is done.
      if (steps === 0) this.swap = 2 * passed;
      steps += 1;
      const queued = this.engine.kind === 'gpu' ? steps * this.step : 0;
      return Math.max(passed, queued) > milliseconds;
    };
  }
}
