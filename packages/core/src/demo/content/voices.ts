import { reportProgress } from '../../progress';
import type { Sound } from '../../stock/types';

/** Samples a second of sounds that are made by code. */
const RATE = 32_000;

/** Adds a voice from a second on, for so long: `at` gives it by the seconds since it began. */
export type Add = (begin: number, seconds: number, at: (t: number) => number) => void;

/** A sound of so many seconds from the voices that are added; together they bend towards full. */
export function mixed(seconds: number, voices: (add: Add) => void): Sound {
  const sum = new Float64Array(RATE * seconds);
  voices((begin, length, at) => {
    const first = Math.round(begin * RATE);
    const last = Math.min(sum.length, first + Math.round(length * RATE));
    for (let i = Math.max(0, first); i < last; i++) sum[i] = sum[i]! + at((i - first) / RATE);
    reportProgress();
  });
  const channel = Int16Array.from(sum, (v) => Math.round(32_000 * Math.tanh(v)));
  return { type: 'sound', rate: RATE, channels: [channel] };
}

export const turn = (frequency: number, t: number): number => Math.sin(2 * Math.PI * frequency * t);

/** Partials of a cast bell, the higher the sooner gone. */
export function bell(add: Add, begin: number, frequency: number, size = 0.11): void {
  const partials = [1, 2.01, 2.41, 3.02, 4.17, 5.43];
  add(begin, 2.2, (t) => {
    let v = 0;
    partials.forEach(
      (p, k) => (v += (turn(frequency * p, t) * Math.exp(-(1.6 + k) * t)) / (k + 1)),
    );
    return size * v * Math.min(1, t * 2000);
  });
}
