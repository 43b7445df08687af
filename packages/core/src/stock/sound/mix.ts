import { FULL_SCALE, type Sound } from '../types';
import { placeIn, type Heard } from './heard';

/** Zero crossings of the sinc on each side, and entries of its table from one to the next. */
const REACH = 24;
const FINE = 512;
/** Shape of the Kaiser window: what is beyond is 90 dB down. */
const BETA = 9;

/** The modified Bessel function of the first kind and order 0, by its series. */
function bessel(x: number): number {
  let [sum, term] = [1, 1];
  for (let k = 1; term > 1e-12 * sum; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

/** Half of a sinc under a Kaiser window, and where it would go on. */
const SINC = Float64Array.from({ length: REACH * FINE + 2 }, (_, i) => {
  const x = i / FINE;
  if (x >= REACH) return 0;
  const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
  return (sinc * bessel(BETA * Math.sqrt(1 - (x / REACH) ** 2))) / bessel(BETA);
});

/**
 * A channel between its samples (J. O. Smith, "Digital Audio Resampling", 2002: a sinc under a Kaiser window).
 *
 * @param at in samples
 * @param cut part of what the samples could hold that is let through, to 1
 */
function between(channel: Int16Array, at: number, cut: number): number {
  const reach = REACH / cut;
  const first = Math.max(0, Math.ceil(at - reach));
  const last = Math.min(channel.length - 1, Math.floor(at + reach));
  let sum = 0;
  for (let i = first; i <= last; i++) {
    const place = Math.abs(at - i) * cut * FINE;
    const low = Math.floor(place);
    sum += channel[i]! * (SINC[low]! + (SINC[low + 1]! - SINC[low]!) * (place - low));
  }
  return (sum * cut) / FULL_SCALE;
}

/** Both sides of a sound at a second of it; as it is where the time falls on a sample. */
function sidesAt({ channels, rate }: Sound, second: number, cut: number): [number, number] {
  const at = second * rate;
  const near = Math.round(at);
  const whole = cut === 1 && Math.abs(at - near) < 1e-6;
  const [left, right = left] = channels.map((c) =>
    whole ? (c[near] ?? 0) / FULL_SCALE : between(c, at, cut),
  ) as [number, number?];
  return [left, right];
}

/**
 * A mix of sounds from a second of a piece on: left and right, so many samples at a rate, cut off at -1 and 1.
 */
export function mixOf(
  heard: readonly Heard[],
  from: number,
  count: number,
  rate: number,
): [left: Float32Array, right: Float32Array] {
  const sides: [Float32Array, Float32Array] = [new Float32Array(count), new Float32Array(count)];
  for (const one of heard) {
    const cut = Math.min(1, rate / one.sound.rate);
    for (let i = 0; i < count; i++) {
      const place = placeIn(one, from + i / rate);
      if (!place) continue;
      const [left, right] = sidesAt(one.sound, place.at, cut);
      sides[0][i]! += left * place.gain;
      sides[1][i]! += right * place.gain;
    }
  }
  for (const side of sides) side.forEach((v, i) => (side[i] = Math.max(-1, Math.min(1, v))));
  return sides;
}
