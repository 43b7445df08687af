import { memo } from '../memo';
import type { Sound } from '../types';
import { loudnessOf, STEPS } from './loudness';

/** The beat of a sound. */
export interface Tempo {
  /** Beats a minute. */
  tempo: number;
  /** Second of the sound at which the first beat comes. */
  first: number;
}

/** Beats a minute that are looked for. */
const SLOWEST = 55;
const FASTEST = 190;
/** So many beats on it has to fit still. */
const BEATS = 8;
/** Of two tempi of which the one is a part of the other the faster counts, where it is nearly as good. */
const NEARLY = 0.85;
/** Bands that are watched, in Hz. */
const EDGES = [30, 150, 600, 2500, 10_000];
/** No more is listened to, in seconds. */
const LONGEST = 180;

/** How much louder it becomes, step by step, in any of the bands. */
function onsets(sound: Sound): Float64Array {
  const length = sound.channels[0]!.length / sound.rate;
  const rises = new Float64Array(Math.floor(Math.min(LONGEST, length) * STEPS));
  const bands = EDGES.slice(1).map((high, b) =>
    loudnessOf(sound, { low: EDGES[b]!, high, measure: 'rms', window: 0.02 }),
  );
  for (const band of bands) {
    const loud = band();
    for (let k = 1; k < rises.length; k++) rises[k]! += Math.max(0, loud[k]! - loud[k - 1]!);
  }
  return rises;
}

/** How well it goes with itself so many steps later. */
function likeness(rises: Float64Array, lag: number): number {
  let sum = 0;
  for (let k = lag; k < rises.length; k++) sum += rises[k]! * rises[k - lag]!;
  return sum;
}

/**
 * The tempo of a sound, by the likeness of its onsets with themselves some beats later (the autocorrelation of an
 * onset strength: P. Grosche and M. Müller, "Extracting predominant local pulse information from music recordings",
 * 2011, in its plainest form). Null where nothing in it comes again.
 */
export function tempoOf(sound: Sound): Tempo | null {
  return memo(sound, 'tempo', () => findTempo(sound));
}

function findTempo(sound: Sound): Tempo | null {
  const rises = onsets(sound);
  const whole = likeness(rises, 0);
  if (!(whole > 0)) return null;
  const most = Math.min(rises.length - 2, Math.ceil((BEATS * 60 * STEPS) / SLOWEST));
  const raw = Float64Array.from({ length: most + 3 }, (_, lag) => likeness(rises, lag) / whole);
  // Over three steps, so that a beat that comes a step too late is found.
  const table = Float64Array.from(
    { length: most + 2 },
    (_, lag) => 0.5 * raw[lag]! + 0.25 * (raw[Math.abs(lag - 1)]! + raw[lag + 1]!),
  );
  /** How well a beat of so many steps fits, and how many beats could be looked at. */
  const fit = (steps: number): number => {
    let sum = 0;
    let count = 0;
    for (let m = 1; m <= BEATS && m * steps < most; m++) {
      const low = Math.floor(m * steps);
      const part = m * steps - low;
      // What is further off has fewer beats in it.
      const there = 1 - (m * steps) / rises.length;
      sum += ((1 - part) * table[low]! + part * table[low + 1]!) / Math.max(0.2, there);
      count += 1;
    }
    return count > 0 ? sum / count : 0;
  };
  const tempi = Array.from(
    { length: Math.ceil(Math.log(FASTEST / SLOWEST) / Math.log(1.001)) },
    (_, i) => SLOWEST * 1.001 ** i,
  );
  const fits = tempi.map((tempo) => fit((60 * STEPS) / tempo));
  const best = Math.max(...fits);
  if (!(best > 0.05)) return null;
  const peak = (i: number): boolean =>
    fits[i]! >= (fits[i - 1] ?? 0) && fits[i]! >= (fits[i + 1] ?? 0) && fits[i]! >= NEARLY * best;
  const at = fits.findLastIndex((_, i) => peak(i));
  const found = tempi[at]!;
  // Most are played to a round number.
  const round = Math.round(found * 2) / 2;
  const near = Math.abs(round / found - 1) < 0.001;
  const tempo = near && fit((60 * STEPS) / round) > 0.98 * fits[at]! ? round : found;
  return { tempo, first: firstBeat(rises, (60 * STEPS) / tempo) };
}

/** Where a comb of so many steps a tooth meets most of what rises: in seconds. */
function firstBeat(rises: Float64Array, steps: number): number {
  let [best, most] = [0, -1];
  for (let phase = 0; phase < steps; phase++) {
    let sum = 0;
    for (let k = phase; k < rises.length; k += steps) {
      const near = Math.round(k);
      sum += (rises[near] ?? 0) + 0.5 * ((rises[near - 1] ?? 0) + (rises[near + 1] ?? 0));
    }
    if (sum > most) [best, most] = [phase, sum];
  }
  return best / STEPS;
}
