import type { Pixels } from './pixels';

/** How two frames differ. Differences are in steps of 8 bits: 255 is all of a colour, or light of 1. */
export interface Difference {
  /** The largest of a channel of a pixel, and where that pixel is. */
  largest: number;
  at: [x: number, y: number];
  /** Of all channels of all pixels. */
  mean: number;
  /** Parts of the pixels that differ at all. */
  share: number;
  /** The rectangle around all pixels that differ: its first and its last column and row. */
  within: [left: number, top: number, right: number, bottom: number];
}

/** Why two frames cannot be laid over each other; null where they can. */
export function notComparable(a: Pixels, b: Pixels): string | null {
  if (a.width !== b.width || a.height !== b.height) {
    const size = ({ width, height }: Pixels): string => `${String(width)}x${String(height)}`;
    return `they have ${size(a)} and ${size(b)} pixels`;
  }
  if (a.light !== b.light) return 'one has linear light, the other what a screen is given';
  if (a.channels !== b.channels) {
    return `they have ${String(a.channels)} and ${String(b.channels)} channels`;
  }
  return null;
}

/** How two frames of one size differ; null where they do not. What is no number differs by all there is. */
export function difference(a: Pixels, b: Pixels): Difference | null {
  const { width, channels } = a;
  const within: Difference['within'] = [Infinity, Infinity, -1, -1];
  let [largest, sum, count] = [0, 0, 0];
  let at: Difference['at'] = [0, 0];
  for (let pixel = 0; pixel < a.values.length / channels; pixel++) {
    let most = 0;
    for (let c = 0; c < channels; c++) {
      const [one, other] = [a.values[pixel * channels + c]!, b.values[pixel * channels + c]!];
      const off = Object.is(one, other) ? 0 : Math.abs(one - other);
      const steps = Number.isNaN(off) ? Infinity : 255 * off;
      sum += steps;
      most = Math.max(most, steps);
    }
    if (most === 0) continue;
    count += 1;
    const [x, y] = [pixel % width, Math.floor(pixel / width)];
    if (most > largest) [largest, at] = [most, [x, y]];
    within[0] = Math.min(within[0], x);
    within[1] = Math.min(within[1], y);
    within[2] = Math.max(within[2], x);
    within[3] = Math.max(within[3], y);
  }
  if (count === 0) return null;
  const all = a.values.length;
  return { largest, at, mean: sum / all, share: (count * channels) / all, within };
}
