import type { Sound } from '../types';

/** A sound of one channel that goes on being recorded; what reads it hears all that there is so far. */
export class LiveSound implements Sound {
  readonly type = 'sound';
  channels: Int16Array[];
  private buffer = new Int16Array(2 ** 16);
  /** How many samples there were before each part of it. */
  private readonly parts: number[] = [];

  /**
   * @param rate samples a second
   * @param start second of the piece at which it begins
   */
  constructor(
    readonly rate: number,
    readonly start: number,
  ) {
    this.channels = [this.buffer.subarray(0, 0)];
  }

  get length(): number {
    return this.channels[0]!.length;
  }

  append(samples: Int16Array): void {
    const { length } = this;
    if (samples.length === 0) return;
    this.parts.push(length);
    if (length + samples.length > this.buffer.length) {
      const grown = new Int16Array(2 * (length + samples.length));
      grown.set(this.channels[0]!);
      this.buffer = grown;
    }
    this.buffer.set(samples, length);
    this.channels = [this.buffer.subarray(0, length + samples.length)];
  }

  /** Grows with every part. */
  get changes(): number {
    return this.parts.length;
  }

  /** The second of the piece from which on it may be something else, since it had so many parts at the least. */
  changedFrom(changes: number): number {
    const from = this.parts[changes];
    return from === undefined ? Infinity : this.start + from / this.rate;
  }

  /** What is recorded now. */
  copy(): Sound {
    return { type: 'sound', rate: this.rate, channels: [this.channels[0]!.slice()] };
  }
}
