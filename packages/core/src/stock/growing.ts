type Numbers = Int16Array | Float32Array | Float64Array;

/** Numbers that go on being added to; what there is so far is seen without being copied. */
export class Growing<T extends Numbers> {
  private length = 0;

  /** @param buffer room to begin with */
  constructor(private buffer: T) {}

  get all(): T {
    return this.buffer.subarray(0, this.length) as T;
  }

  append(more: ArrayLike<number>): void {
    const end = this.length + more.length;
    if (end > this.buffer.length) {
      const grown = new (this.buffer.constructor as new (length: number) => T)(2 * end);
      grown.set(this.all);
      this.buffer = grown;
    }
    this.buffer.set(more, this.length);
    this.length = end;
  }
}
