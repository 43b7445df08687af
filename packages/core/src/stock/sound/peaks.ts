import { memo } from '../memo';
import { FULL_SCALE, type Sound } from '../types';

/** Samples that the coarse peaks take together. */
const BLOCK = 256;

/** Lowest and highest of each stretch of a sound, over its channels, -1 to 1. */
export interface Peaks {
  low: Float32Array;
  high: Float32Array;
}

/** Seconds that a sound lasts. */
export function secondsOf({ rate, channels }: Sound): number {
  return channels[0]!.length / rate;
}

/** The peaks of blocks, found as far as the sound goes: one that is being recorded grows. */
class CoarsePeaks implements Peaks {
  low = new Float32Array(0);
  high = new Float32Array(0);
  private done = 0;

  constructor(private readonly sound: Sound) {}

  grow(): this {
    const { length } = this.sound.channels[0]!;
    const count = Math.ceil(length / BLOCK);
    if (length === this.done) return this;
    for (const key of ['low', 'high'] as const) {
      const grown = new Float32Array(count);
      grown.set(this[key]);
      this[key] = grown;
    }
    // The last block may have been only begun.
    const first = Math.floor(this.done / BLOCK);
    for (let b = first; b < count; b++) put(this.sound, b * BLOCK, (b + 1) * BLOCK, this, b);
    this.done = length;
    return this;
  }
}

function coarse(sound: Sound): Peaks {
  return memo(sound, 'peaks', () => new CoarsePeaks(sound)).grow();
}

function put({ channels }: Sound, begin: number, end: number, to: Peaks, at: number): void {
  let [low, high] = [FULL_SCALE, -FULL_SCALE] as [number, number];
  for (const channel of channels) {
    for (let i = begin; i < Math.min(end, channel.length); i++) {
      const v = channel[i]!;
      if (v < low) low = v;
      if (v > high) high = v;
    }
  }
  to.low[at] = low / FULL_SCALE;
  to.high[at] = high / FULL_SCALE;
}

/**
 * The peaks of so many equal stretches between two times in seconds; 0 where there is no sound. Long stretches
 * are read from peaks that are found once, so that an hour is drawn in a moment.
 */
export function peaksOf(sound: Sound, from: number, to: number, count: number): Peaks {
  const length = sound.channels[0]!.length;
  const peaks = { low: new Float32Array(count), high: new Float32Array(count) };
  const step = ((to - from) * sound.rate) / count;
  const blocks = step >= 2 * BLOCK ? coarse(sound) : null;
  for (let i = 0; i < count; i++) {
    const begin = Math.floor(from * sound.rate + i * step);
    const end = Math.max(begin + 1, Math.floor(from * sound.rate + (i + 1) * step));
    if (end <= 0 || begin >= length) continue;
    if (!blocks) {
      put(sound, Math.max(0, begin), end, peaks, i);
      continue;
    }
    const last = Math.min(blocks.low.length, Math.ceil(end / BLOCK));
    for (let b = Math.max(0, Math.floor(begin / BLOCK)); b < last; b++) {
      peaks.low[i] = Math.min(peaks.low[i]!, blocks.low[b]!);
      peaks.high[i] = Math.max(peaks.high[i]!, blocks.high[b]!);
    }
  }
  return peaks;
}
