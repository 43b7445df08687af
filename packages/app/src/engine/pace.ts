/** The clock of playing: when the next frame is due, and how many came late. In milliseconds. */
export class Pace {
  /** Late frames since playing began. */
  late = 0;
  private speed = 1;
  private due = 0;

  /** Playing begins or ends. */
  begin(): void {
    this.late = 0;
    this.restart();
  }

  /** The next frame is due now. */
  restart(): void {
    this.due = performance.now();
  }

  setSpeed(speed: number): void {
    this.speed = speed;
    this.restart();
  }

  /** The time of a frame of a piece, by its frames a second. */
  step(rate: number): number {
    return 1000 / (rate * this.speed);
  }

  /** Until the next frame is due. */
  get left(): number {
    return this.due - performance.now();
  }

  /** A frame is left out. */
  skip(step: number): void {
    this.due += step;
  }

  /**
   * A frame was shown. Late frames are not made up for: the picture slows down rather than jumps, but for the time that
   * it may be behind.
   */
  shown(step: number, behind: number): void {
    const now = performance.now();
    if (now > this.due + step) this.late += 1;
    this.due = Math.max(now - behind, this.due + step);
  }
}
