import { Growing } from '../growing';
import type { Sound } from '../types';

/** A sound of one channel that goes on being recorded; what reads it hears all that there is so far. */
export class LiveSound implements Sound {
  readonly type = 'sound';
  channels: Int16Array[];
  private readonly samples = new Growing(new Int16Array(2 ** 16));
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
    this.channels = [this.samples.all];
  }

  get length(): number {
    return this.channels[0]!.length;
  }

  append(samples: Int16Array): void {
    if (samples.length === 0) return;
    this.parts.push(this.length);
    this.samples.append(samples);
    this.channels = [this.samples.all];
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

  /** The sound as it is recorded so far. */
  copy(): Sound {
    return { type: 'sound', rate: this.rate, channels: [this.channels[0]!.slice()] };
  }
}
