import { pause } from './pause';

/** Turns of work, one after the other, for as long as there is something to do. */
export class Turns {
  private running = false;
  private asked = false;

  constructor(
    /** One turn; false when there is nothing left to do. */
    private readonly turn: () => Promise<boolean>,
    /** Milliseconds until the next one. */
    private readonly rest: () => number,
  ) {}

  /** Something changed. */
  wake(): void {
    // A turn that is just ending may not have seen what changed.
    this.asked = true;
    if (this.running) return;
    this.running = true;
    void this.run();
  }

  private async run(): Promise<void> {
    while (this.asked) {
      this.asked = false;
      while (await this.turn()) await pause(this.rest());
    }
    this.running = false;
  }
}
