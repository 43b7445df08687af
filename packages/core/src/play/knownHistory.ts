/** By swarm, for how many frames back its history is there: trails are drawn no farther. */
export class Past {
  private readonly known = new Map<string, number>();

  /** Forgets the history of a swarm. */
  begin(id: string): void {
    this.known.set(id, 0);
  }

  /** One frame more is kept. */
  grow(id: string): void {
    const known = this.known.get(id);
    if (known !== undefined) this.known.set(id, known + 1);
  }

  of(id: string): number {
    return this.known.get(id) ?? Infinity;
  }

  /** All is there again: from the start, or from what was saved. */
  complete(): void {
    this.known.clear();
  }
}
