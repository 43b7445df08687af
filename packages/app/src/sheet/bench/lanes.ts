import type { Peaks } from '@vast-swarm/core/stock';

/** Lanes are drawn in units of their own: so wide a view, and so high. */
export const WIDE = 400;
export const HIGH = 60;
/** Pixels that are left free above and below. */
const MARGIN = 5;

/** A stretch of time in seconds. */
export interface Stretch {
  from: number;
  to: number;
}

/** The lowest and the highest value that a lane shows. */
export interface Range {
  low: number;
  high: number;
}

/** The range of some values, with others that are to be seen too; never empty. */
export function rangeWith(values: Iterable<number>, ...others: number[]): Range {
  let [low, high] = [Infinity, -Infinity];
  for (const v of [...values, ...others]) [low, high] = [Math.min(low, v), Math.max(high, v)];
  if (!Number.isFinite(low)) return { low: 0, high: 1 };
  return high > low ? { low, high } : { low: low - 0.5, high: high + 0.5 };
}

/** How high a value stands in a lane, from above. */
export function heightOf(value: number, { low, high }: Range): number {
  return HIGH - MARGIN - ((value - low) / (high - low)) * (HIGH - 2 * MARGIN);
}

/** The value at a part of a lane's height, from 0 above to 1 below. */
export function valueAtHeight(part: number, { low, high }: Range): number {
  const up = (HIGH - MARGIN - part * HIGH) / (HIGH - 2 * MARGIN);
  return low + (high - low) * up;
}

/** The d of a curve over a stretch, of which a second is `scale` wide. */
export function curvePath(
  at: (time: number) => number,
  { from, to }: Stretch,
  scale: number,
  range: Range,
  points: number,
): string {
  return Array.from({ length: points + 1 }, (_, i) => {
    const time = from + ((to - from) * i) / points;
    const x = ((time - from) * scale).toFixed(1);
    return `${i ? 'L' : 'M'}${x} ${heightOf(at(time), range).toFixed(1)}`;
  }).join('');
}

/** The d of a waveform that is so wide. */
export function wavePath({ low, high }: Peaks, width: number): string {
  const most = Math.max(1e-4, ...high, ...low.map((v) => -v));
  const range = { low: -most, high: most };
  const place = (v: number, i: number): string =>
    `${((i * width) / Math.max(1, high.length - 1)).toFixed(1)} ${heightOf(v, range).toFixed(1)}`;
  const tops = Array.from(high, place);
  const bottoms = Array.from(low, place).reverse();
  return `M${[...tops, ...bottoms].join('L')}Z`;
}
