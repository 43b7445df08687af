/** A newer piece is on its way, or the artist has had enough of waiting. */
class Superseded extends Error {}

/** Milliseconds of building that are nothing to speak of, and are not left off. */
const SOON = 500;

/** Makes a piece ready for the engine: tells how far it is, and leaves off as soon as the page asks for something else. */
export class Building {
  /** When it began; null while nothing is built. */
  private since: number | null = null;
  private began = 0;
  private told = false;

  /**
   * @param asked counts what the page has asked for, in memory that it shares; null where it cannot
   * @param tell is told what is being made, and the part of it that is done; 1 at the end
   */
  constructor(
    private readonly asked: Int32Array | null,
    private readonly tell: (name: string, part: number) => void,
  ) {}

  /** How much the page has asked for. */
  private count(): number {
    return this.asked ? Atomics.load(this.asked, 0) : 0;
  }

  /** The result of `work`; null where it was left off. */
  during<T>(work: () => T): T | null {
    this.since = performance.now();
    this.began = this.count();
    try {
      return work();
    } catch (error) {
      if (error instanceof Superseded) return null;
      throw error;
    } finally {
      this.since = null;
      if (this.told) this.tell('', 1);
      this.told = false;
    }
  }

  /** To be told of all long work; ends it where it is not wanted any more. */
  reportProgress(what: string, part: number): void {
    if (this.since === null) return;
    // What is soon done is seen while a dial is dragged; what has no name may not be ended on its way.
    if (what === '' || performance.now() - this.since < SOON) return;
    if (this.count() !== this.began) throw new Superseded();
    this.told = true;
    this.tell(what, Math.min(part, 0.99));
  }
}
