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

function coarse(sound: Sound): Peaks {
  return memo(sound, 'peaks', () => {
    const count = Math.ceil(sound.channels[0]!.length / BLOCK);
    const peaks = { low: new Float32Array(count), high: new Float32Array(count) };
    for (let b = 0; b < count; b++) put(sound, b * BLOCK, (b + 1) * BLOCK, peaks, b);
    return peaks;
  });
}

function put({ channels }: Sound, begin: number, end: number, to: Peaks, at: number): void {
  let [low, high] = [FULL_SCALE, -FULL_SCALE];
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
