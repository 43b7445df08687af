/**
 * A part of the compile. It says itself what it depends on, beside how it is made: where that is the
 * same as in the compile before, so is what it made.
 */
export interface PlanPart<From, T> {
  /** Tells it from other parts. */
  name: string;
  /** All that `make` reads of what it is given, as plain values; test/compileCache.test.ts holds it to that. */
  dependsOn: (from: From) => unknown;
  make: (from: From) => T;
}

/** Keeps what was made from equal inputs one compile ago, so that a turned dial makes little anew. */
export class PlanCache {
  private before = new Map<string, unknown>();
  private now = new Map<string, unknown>();

  /** The part's result: the same object as last time where its inputs are the same. */
  keep<From, T>(part: PlanPart<From, T>, from: From): T {
    const key = `${part.name} ${JSON.stringify(part.dependsOn(from))}`;
    const known = (this.now.get(key) ?? this.before.get(key)) as T | undefined;
    const value = known ?? part.make(from);
    this.now.set(key, value);
    return value;
  }

  /** To be called after a compile: what it did not ask for is forgotten. */
  turn(): void {
    this.before = this.now;
    this.now = new Map();
  }
}
