import type { Sound } from '../../stock/types';
import { bell, mixed, turn, type Add } from './voices';

const SECONDS = 16;

/** Somebody who rings a hand bell and blows across a microphone. */
export function bellBreath(): Sound {
  return mixed(SECONDS, (add) => {
    [0.2, 2.3, 4.5, 6.4, 8.6, 10.7, 12.6, 14.4].forEach((begin, n) => {
      bell(add, begin, [392, 523, 440, 349][n % 4]!, 0.16);
    });
    const breaths = [
      [0.9, 1.3],
      [2.9, 1.9],
      [5.5, 0.8],
      [6.9, 2.6],
      [10.1, 0.7],
      [11.2, 1.2],
      [13, 2.4],
    ] as const;
    breaths.forEach(([begin, seconds], n) => {
      breath(add, begin, seconds, 11 + n);
    });
  });
}

/** Noise without its low end, that swells and flutters. */
function breath(add: Add, begin: number, seconds: number, seed: number): void {
  let state = seed * 7919;
  const random = (): number => (state = (state * 48271) % 2147483647) / 2147483647 - 0.5;
  let [before, twice] = [0, 0];
  add(begin, seconds, (t) => {
    const now = random();
    // Differences of differences: 12 dB an octave less below.
    const high = now - 2 * before + twice;
    [twice, before] = [before, now];
    const swell = Math.sin((Math.PI * t) / seconds) ** 1.5;
    const flutter = 0.75 + 0.25 * turn(6.3, t) * turn(1.7, t + seed);
    return 0.3 * swell * flutter * high;
  });
}
