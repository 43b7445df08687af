import type { Sound } from '../../stock/types';
import { bell, mixed, turn, type Add } from './voices';

const SECONDS = 24;
/** Seconds of a beat: the engine of a boat, a hundred to the minute. */
const BEAT = 0.6;

/** The quay's fog signal, a boat's engine that beats, a bell buoy, and an accordion behind them. */
export function fogSignal(): Sound {
  return mixed(SECONDS, (add) => {
    for (let n = 0; n < SECONDS / BEAT; n++) engine(add, n);
    for (const begin of [2.4, 12, 21.6]) horn(add, begin);
    for (let n = 0; n < 15; n++) bell(add, 0.3 + 1.6 * n + 0.11 * (n % 3), n % 2 ? 622 : 740);
    const chords = [
      [220, 262, 330],
      [175, 220, 262],
      [196, 247, 294],
      [165, 208, 247],
    ];
    for (let n = 2; n < 10; n++) accordion(add, 2.4 * n, chords[n % 4]!);
  });
}

/** A thump that falls from 95 to 48 Hz; every fourth is louder. */
function engine(add: Add, n: number): void {
  const size = n % 4 === 0 ? 0.75 : 0.5;
  add(n * BEAT, 0.4, (t) => {
    const phase = 48 * t + (47 / 30) * (1 - Math.exp(-30 * t));
    return size * Math.sin(2 * Math.PI * phase) * Math.exp(-9 * t) * Math.min(1, t * 400);
  });
}

/** Two low pipes a little apart. */
function horn(add: Add, begin: number): void {
  add(begin, 2.4, (t) => {
    const swell = Math.min(1, t / 0.15) * Math.min(1, (2.4 - t) / 0.5);
    let v = 0;
    for (let k = 1; k <= 6; k++) v += (turn(116.5 * k, t) + turn(117.3 * k, t)) / k;
    return 0.1 * swell * v;
  });
}

/** Reeds in pairs that beat against each other, with bellows. */
function accordion(add: Add, begin: number, chord: readonly number[]): void {
  add(begin, 2.4, (t) => {
    const bellows =
      Math.min(1, t / 0.2) * Math.min(1, (2.4 - t) / 0.3) * (0.8 + 0.2 * turn(5.2, t));
    let v = 0;
    for (const f of chord) {
      for (let k = 1; k <= 7; k += 2)
        v += (turn(2 * f * k, t) + turn(2 * f * k * 1.006, t)) / (k * k);
    }
    return 0.022 * bellows * v;
  });
}
