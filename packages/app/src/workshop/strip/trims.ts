import type { SoundExtent } from '../../engine/hearing';

/** What can be taken hold of. */
export const GRIPS = ['from', 'to', 'fadeIn', 'fadeOut'] as const;
export type Grip = (typeof GRIPS)[number];

/** Least that is left of a sound, in seconds. */
const LEAST = 0.02;

const round = (v: number): number => Math.round(v * 1e5) / 1e5;

/** Where the handles stand, in seconds of the piece. */
export function placesOf({ start, from, to, fadeIn, fadeOut }: SoundExtent): Record<Grip, number> {
  const end = start + to - from;
  return { from: start, to: end, fadeIn: start + fadeIn, fadeOut: end - fadeOut };
}

/**
 * What a handle that goes to a second of the piece changes: what is heard stays where it is, so that trimming the
 * beginning moves the start along; `start` is in frames, on whole ones.
 */
export function gripped(
  grip: Grip,
  second: number,
  extent: SoundExtent,
  rate: number,
): Partial<Record<Grip | 'start', number>> {
  const { start, from, to, whole } = extent;
  const length = to - from;
  const into = Math.max(0, second - start);
  switch (grip) {
    case 'from': {
      // On whole frames, so that what is heard does not shift against them.
      const frames = Math.round((second - start) * rate);
      const least = Math.ceil(-from * rate);
      const most = Math.floor((length - LEAST) * rate);
      const moved = Math.min(most, Math.max(least, frames));
      return { from: round(from + moved / rate), start: Math.round(start * rate) + moved };
    }
    case 'to': {
      const end = Math.min(whole, Math.max(from + LEAST, from + into));
      // Its own end is 0: it stays there where the sound changes.
      return { to: end >= whole - 1e-3 ? 0 : round(end) };
    }
    case 'fadeIn':
      return { fadeIn: round(Math.min(length - extent.fadeOut, into)) };
    case 'fadeOut':
      return { fadeOut: round(Math.min(length - extent.fadeIn, Math.max(0, length - into))) };
  }
}
