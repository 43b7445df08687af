/** Progress on standard error: one line that moves on a terminal; elsewhere nobody watches. */
export class Progress {
  private readonly started = performance.now();

  constructor(
    private readonly what: string,
    private readonly total: number,
  ) {}

  at(done: number): void {
    if (!process.stderr.isTTY) return;
    const seconds = (performance.now() - this.started) / 1000;
    const left = (seconds / Math.max(done, 1)) * (this.total - done);
    const rate = done / Math.max(seconds, 1e-3);
    const text = `${this.what} ${String(done)} / ${String(this.total)}, ${rate.toFixed(1)} a second, ${left.toFixed(0)} s left`;
    process.stderr.write(`\r${text}\u001b[K${done === this.total ? '\n' : ''}`);
  }
}
