/** Progress: one line that moves on a terminal, lines of JSON for other programs, or nothing where nobody watches. */
export class Progress {
  private readonly started = performance.now();
  private begun = 0;
  private done = 0;

  constructor(
    private readonly what: string,
    private readonly total: number,
    private readonly json = false,
  ) {}

  /** One more is done: the frame of that number. */
  one(frame: number): void {
    this.done += 1;
    if (this.done === 1) this.begun = performance.now();
    this.tell(frame);
  }

  private tell(frame: number): void {
    const { done, total } = this;
    if (!this.json && !process.stderr.isTTY) return;
    // What comes before the first frame is no measure of those behind it.
    const [since, made] = done > 1 ? [this.begun, done - 1] : [this.started, 1];
    const rate = made / Math.max((performance.now() - since) / 1000, 1e-3);
    const left = (total - done) / rate;
    if (this.json) {
      const line = { frame, done, total, perSecond: rounded(rate), secondsLeft: rounded(left) };
      process.stdout.write(`${JSON.stringify(line)}\n`);
      return;
    }
    const text = `${this.what} ${String(done)} / ${String(total)}, ${rate.toFixed(1)} a second, ${left.toFixed(0)} s left`;
    process.stderr.write(`\r${text}\u001b[K${done === total ? '\n' : ''}`);
  }
}

const rounded = (value: number): number => Math.round(value * 100) / 100;
