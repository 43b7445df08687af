import type { Playback } from '@vast-swarm/core/play';
import type { Plan } from '@vast-swarm/core/plan';

/** While a far frame is approached, a frame on the way is shown this often, in milliseconds. */
const GLIMPSE = 120;

/** The way to a frame, in slices of time. */
export class Seeking {
  private target: number | null = null;
  private glimpses = false;
  private lastGlimpse = 0;

  constructor(
    private readonly playback: Playback,
    /** Shows the frame of the state, with so many still to come on the way. */
    private readonly show: (left: number) => Promise<void>,
  ) {}

  /** The frame that is sought. */
  get frame(): number | null {
    return this.target;
  }

  get on(): boolean {
    return this.target !== null;
  }

  to(frame: number, glimpses = this.glimpses): void {
    this.target = frame;
    this.glimpses = glimpses;
  }

  /** Comes to a frame, where no other is sought. */
  otherwiseTo(frame: number): void {
    this.target ??= frame;
  }

  /** Shows frames on the way. */
  glimpse(shown: boolean): void {
    this.glimpses = shown;
  }

  stop(): void {
    this.target = null;
  }

  /** Steps towards the frame for some milliseconds; true when it is reached. */
  async slice(plan: Plan, time: number): Promise<boolean> {
    const { playback } = this;
    const target = Math.min(this.target!, plan.frame.length - 1);
    const start = performance.now();
    let left = playback.approach(target);
    while (left > 0 && performance.now() - start < time) {
      // A finish that remembers has to see every frame on the way, that of a snapshot too.
      if (plan.finish.remembers && playback.frame >= -plan.runIn) await this.show(left);
      await playback.ready();
      playback.advance();
      left -= 1;
    }
    if (left === 0) {
      this.target = null;
      this.glimpses = false;
      return true;
    }
    if (this.glimpses && performance.now() - this.lastGlimpse > GLIMPSE) {
      await this.show(left);
      this.lastGlimpse = performance.now();
    }
    return false;
  }
}
