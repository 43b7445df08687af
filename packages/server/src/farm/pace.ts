/** Seconds that are looked back. */
const BACK = 20;

/** How many things a second were done of late. */
export class Pace {
  private moments: number[] = [];

  one(now = performance.now()): void {
    this.moments.push(now / 1000);
  }

  get perSecond(): number {
    return this.at(performance.now());
  }

  /** At a moment in milliseconds. */
  at(now: number): number {
    const since = now / 1000 - BACK;
    this.moments = this.moments.filter((m) => m >= since);
    const [first] = this.moments;
    if (first === undefined) return 0;
    // Of the first one it is not known how long it took.
    return (this.moments.length - 1) / Math.max(0.1, now / 1000 - first);
  }
}
