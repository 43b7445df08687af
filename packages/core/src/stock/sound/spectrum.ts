import { memo } from '../memo';
import type { Sound } from '../types';
import { Spectrum, takeBlock } from './pitch';

/** Seconds that are looked at. */
const WINDOW = 0.17;

/** Decibels below which nothing is told. */
export const SILENCE = -90;

/**
 * How loud a sound is by frequency, in what ends at a second of it: decibels in so many stretches from `low` to `high`
 * Hz, each as wide in pitch as the next. A full sine has 0.
 */
export function spectrumOf(
  sound: Sound,
  at: number,
  low: number,
  high: number,
  count: number,
): Float32Array {
  const { rate } = sound;
  const size = 2 ** Math.round(Math.log2(rate * WINDOW));
  const [spectrum, block] = memo(sound, 'spectrum', () => [
    new Spectrum(size),
    new Float64Array(size),
  ]);
  takeBlock(sound, Math.round(at * rate), block, spectrum.hann);
  const power = spectrum.of(block);
  // Under the window a sine has a quarter of its size times the samples.
  const full = (size / 4) ** 2;
  const binOf = (k: number): number => (low * (high / low) ** (k / count) * size) / rate;
  return Float32Array.from({ length: count }, (_, k) => {
    const [from, to] = [binOf(k), binOf(k + 1)];
    // Of a stretch that is narrower than from one frequency to the next, what lies between two of them.
    const low = Math.floor(from);
    const between = from - low;
    let most = (1 - between) * (power[low] ?? 0) + between * (power[low + 1] ?? 0);
    for (let b = Math.ceil(from); b < to; b++) most = Math.max(most, power[b] ?? 0);
    return Math.max(SILENCE, 10 * Math.log10(Math.max(1e-12, most / full)));
  });
}
