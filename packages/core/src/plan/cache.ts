/** Keeps what was made from equal inputs one compile ago, so that a turned dial makes little anew. */
export class PlanCache {
  private before = new Map<string, unknown>();
  private now = new Map<string, unknown>();

  /** What `make` gives for `key`: the same object as last time where the key is the same. */
  keep<T>(key: string, make: () => T): T {
    const known = (this.now.get(key) ?? this.before.get(key)) as T | undefined;
    const value = known ?? make();
    this.now.set(key, value);
    return value;
  }

  /** To be called after a compile: what it did not ask for is forgotten. */
  turn(): void {
    this.before = this.now;
    this.now = new Map();
  }
}
