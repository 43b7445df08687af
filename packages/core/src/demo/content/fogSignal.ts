import type { Sound } from '../../stock/types';

const RATE = 32_000;
const SECONDS = 24;
/** Seconds of a beat: the engine of a boat, a hundred to the minute. */
const BEAT = 0.6;

/** Adds a voice from a second on, for so long: `at` gives it by the seconds since it began. */
type Add = (begin: number, seconds: number, at: (t: number) => number) => void;

/** The quay's fog signal, a boat's engine that beats, a bell buoy, and an accordion behind them. */
export function fogSignal(): Sound {
  const sum = new Float64Array(RATE * SECONDS);
  const add: Add = (begin, seconds, at) => {
    const first = Math.round(begin * RATE);
    const last = Math.min(sum.length, first + Math.round(seconds * RATE));
    for (let i = Math.max(0, first); i < last; i++) sum[i] = sum[i]! + at((i - first) / RATE);
  };
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
  const channel = Int16Array.from(sum, (v) => Math.round(32_000 * Math.tanh(v)));
  return { type: 'sound', rate: RATE, channels: [channel] };
}

const turn = (frequency: number, t: number): number => Math.sin(2 * Math.PI * frequency * t);

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

/** Partials of a cast bell, the higher the sooner gone. */
function bell(add: Add, begin: number, frequency: number): void {
  const partials = [1, 2.01, 2.41, 3.02, 4.17, 5.43];
  add(begin, 2.2, (t) => {
    let v = 0;
    partials.forEach((p, k) => (v += (turn(frequency * p, t) * Math.exp(-(1.6 + k) * t)) / (k + 1)));
    return 0.11 * v * Math.min(1, t * 2000);
  });
}

/** Reeds in pairs that beat against each other, with bellows. */
function accordion(add: Add, begin: number, chord: readonly number[]): void {
  add(begin, 2.4, (t) => {
    const bellows = Math.min(1, t / 0.2) * Math.min(1, (2.4 - t) / 0.3) * (0.8 + 0.2 * turn(5.2, t));
    let v = 0;
    for (const f of chord) {
      for (let k = 1; k <= 7; k += 2) v += (turn(2 * f * k, t) + turn(2 * f * k * 1.006, t)) / (k * k);
    }
    return 0.022 * bellows * v;
  });
}
