import { stretchOf } from '@vast-swarm/core/stock';
import type { Strip } from '@vast-swarm/core/kinds';
import type { SoundExtent } from '../engine/hearing';

/** How a sound or a clip stands in the piece; `speed` seconds of it in one of the piece. */
export interface Extent extends SoundExtent {
  speed?: number;
}

/** Handles of a row. */
export const GRIPS = ['from', 'to', 'fadeIn', 'fadeOut'] as const;
export type Grip = (typeof GRIPS)[number];

/** Least that is left of a sound, in seconds. */
const LEAST = 0.02;

const round = (v: number): number => Math.round(v * 1e5) / 1e5;

/** Where the handles stand, in seconds of the piece. */
export function placesOf(extent: Extent): Record<Grip, number> {
  const { start, from, to, fadeIn, fadeOut, speed = 1 } = extent;
  const end = start + (to - from) / speed;
  return { from: start, to: end, fadeIn: start + fadeIn, fadeOut: end - fadeOut };
}

/**
 * Changes that a handle makes as it goes to a second of the piece: what is heard stays where it is, so that trimming the
 * beginning moves the start along; `start` is in frames, on whole ones.
 */
export function gripped(
  grip: Grip,
  second: number,
  extent: Extent,
  rate: number,
): Partial<Record<Grip | 'start', number>> {
  const { start, from, to, whole, speed = 1 } = extent;
  const length = to - from;
  const into = Math.max(0, second - start) * speed;
  switch (grip) {
    case 'from': {
      // On whole frames, so that what is heard does not shift against them.
      const frames = Math.round((second - start) * rate);
      const least = Math.ceil((-from * rate) / speed);
      const most = Math.floor(((length - LEAST) * rate) / speed);
      const moved = Math.min(most, Math.max(least, frames));
      return {
        from: round(from + (moved / rate) * speed),
        start: Math.round(start * rate) + moved,
      };
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

/** How a clip or a motion stands in a piece; null where it runs backwards or has no ends that can be taken hold of. */
export function clipExtent(
  dials: Readonly<Record<string, unknown>>,
  { start, trim, speed }: Strip,
  { times }: { times: ArrayLike<number> },
  rate: number,
): Extent | null {
  const fast = speed === undefined ? 1 : dials[speed];
  if (!trim || typeof fast !== 'number' || fast <= 0) return null;
  const whole = times[times.length - 1]!;
  const [from, to] = stretchOf(dials[trim[0]] as number, dials[trim[1]] as number, whole);
  return {
    whole,
    from,
    to,
    speed: fast,
    start: (dials[start] as number) / rate,
    fadeIn: 0,
    fadeOut: 0,
    repeats: false,
  };
}
