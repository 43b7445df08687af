/** Those who want to hear of a change. */
export class Listeners {
  private readonly all = new Set<() => void>();

  /** Adds one; gives what takes it away again. */
  add = (listener: () => void): (() => void) => {
    this.all.add(listener);
    return () => this.all.delete(listener);
  };

  tell(): void {
    for (const listener of this.all) listener();
  }
}
