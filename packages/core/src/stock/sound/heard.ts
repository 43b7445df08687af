import { comesIn, seamOf } from '../../feeds/loop';
import type { Sound } from '../types';
import { peaksOf, type Peaks } from './peaks';

/** A sound as a piece has it: where it begins and ends, and how loud it is. */
export interface Heard {
  sound: Sound;
  /** Second of the piece at which it begins. */
  start: number;
  /** The stretch of the sound that is heard, in seconds of it. */
  from: number;
  to: number;
  /** Multiplies it; fades, in seconds, come on top. */
  gain: number;
  fadeIn: number;
  fadeOut: number;
  /** Whether it begins again at its end. */
  repeats: boolean;
  /** Second of the piece at which it is cut off, whatever is left of it. */
  until?: number;
  /** How much of it is heard at a second of the piece, beside all else. */
  part?: (time: number) => number;
}

/**
 * A sound that is started at some seconds of the piece, each time from its beginning: what was heard of it before is cut
 * off.
 *
 * @param on whether it is heard by itself too, where it stands
 */
export function startedAt(heard: Heard, seconds: readonly number[], on: boolean): Heard[] {
  const cut = (one: Heard, next: number | undefined): Heard =>
    next === undefined ? one : { ...one, until: next };
  const own = on ? [cut(heard, seconds[0])] : [];
  return [...own, ...seconds.map((start, i) => cut({ ...heard, start }, seconds[i + 1]))];
}

/** Which second of its sound is heard at a second of the piece, and how loud; null where it is silent. */
export function placeIn(heard: Heard, time: number): { at: number; gain: number } | null {
  const { start, from, to, fadeIn, fadeOut, repeats, until = Infinity } = heard;
  const length = to - from;
  let into = time - start;
  if (into < 0 || length <= 0 || time >= until) return null;
  if (repeats) into %= length;
  else if (into >= length) return null;
  const rise = fadeIn > 0 ? Math.min(1, into / fadeIn) : 1;
  const fall = fadeOut > 0 ? Math.min(1, (length - into) / fadeOut) : 1;
  return { at: from + into, gain: heard.gain * rise * fall * (heard.part?.(time) ?? 1) };
}

/**
 * A sound of a piece that comes round: what goes on at its end goes over into the beginning, so that nothing is cut off.
 *
 * @param period seconds after which the piece comes round
 */
export function aroundSeam(heard: Heard, period: number): Heard[] {
  if (!placeIn(heard, period)) return [heard];
  const here = (time: number): number => comesIn(time, period);
  const { start, until = Infinity } = heard;
  const rest = { start: start - period, until: Math.min(until - period, seamOf(period)) };
  return [
    { ...heard, part: here },
    { ...heard, ...rest, part: (time) => 1 - here(time) },
  ];
}

/** The peaks of what is heard of a sound in so many equal stretches between two seconds of a piece. */
export function heardPeaks(heard: Heard, begin: number, end: number, count: number): Peaks {
  const low = new Float32Array(count);
  const high = new Float32Array(count);
  const step = (end - begin) / count;
  for (let i = 0; i < count; i++) {
    const place = placeIn(heard, begin + (i + 0.5) * step);
    if (!place) continue;
    const { low: lows, high: highs } = peaksOf(
      heard.sound,
      Math.max(heard.from, place.at - step / 2),
      Math.min(heard.to, place.at + step / 2),
      1,
    );
    low[i] = lows[0]! * place.gain;
    high[i] = highs[0]! * place.gain;
  }
  return { low, high };
}
