import { fadeAt, type ControlValue, type Ease } from '@vast-swarm/core/feeds';

/** Milliseconds between steps of what is under way by the clock. */
const STEP = 16;

interface Way {
  /** Milliseconds of the page's clock. */
  begun: number;
  over: number;
  from: ControlValue;
  to: ControlValue;
  ease: Ease;
  step: (value: ControlValue) => void;
}

/**
 * Values on their way by the clock, and not by frames: how bright all of a show is, and controls while its time stands
 * still.
 */
export class Ways {
  private readonly ways = new Map<string, Way>();
  private timer: ReturnType<typeof setInterval> | null = null;

  /**
   * Sends something to a value in so many seconds.
   *
   * @param step is called with what it is by then, the target exactly at the end
   */
  send(
    name: string,
    {
      from,
      to,
      over,
      ease = 'smooth',
    }: { from: ControlValue; to: ControlValue; over: number; ease?: Ease },
    step: (value: ControlValue) => void,
  ): void {
    if (over <= 0) {
      this.ways.delete(name);
      step(to);
      return;
    }
    this.ways.set(name, { begun: performance.now(), over, from, to, ease, step });
    this.timer ??= setInterval(() => {
      this.go();
    }, STEP);
  }

  private go(): void {
    const now = performance.now();
    for (const [name, { begun, over, from, to, ease, step }] of this.ways) {
      const time = (now - begun) / 1000;
      step(fadeAt({ at: 0, over, from, to, ease }, time));
      if (time >= over) this.ways.delete(name);
    }
    if (this.ways.size === 0) this.stop();
  }

  /** Where those stand that were sent and have not arrived, with the seconds that are left; they go no further here. */
  end(): { name: string; to: ControlValue; left: number }[] {
    const now = performance.now();
    const left = [...this.ways].map(([name, { begun, over, to }]) => {
      return { name, to, left: Math.max(0, over - (now - begun) / 1000) };
    });
    this.stop();
    this.ways.clear();
    return left;
  }

  /** It is somewhere else now, and on no way. */
  forget(name: string): void {
    this.ways.delete(name);
  }

  stop(): void {
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
  }
}
