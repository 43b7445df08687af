import type { Clip } from '../../types';

/** A clip whose file has been opened: all but its sound. */
export type OpenClip = Pick<Clip, 'width' | 'height' | 'times' | 'picture'>;

/** Times of pictures that last so many seconds each. */
export function timesOf(seconds: readonly number[]): Float64Array {
  const times = new Float64Array(seconds.length + 1);
  seconds.forEach((s, i) => (times[i + 1] = times[i]! + s));
  return times;
}
