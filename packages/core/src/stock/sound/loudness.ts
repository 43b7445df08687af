import { reportProgress } from '../../progress';
import { memo } from '../memo';
import { FULL_SCALE, type Sound } from '../types';
import { bandFilter } from './biquad';
import { BandBank, BLOCK } from './bandKernel';

/** Loudness is found so many times a second, whatever the rate of the piece. */
export const STEPS = 240;
/** Seconds of a sound beyond a time that signals may read for it: what lies between steps is read from both. */
export const HEARD_AHEAD = 2 / STEPS;

/** Steps after which filters that ring on below hearing are ended. */
const CALM = 16;

export interface Band {
  /** Hz. */
  low: number;
  high: number;
  measure: 'rms' | 'peak';
  /** Seconds that are looked back over. */
  window: number;
}

/** The last steps of a band: the sum of squares of each, or the largest; and how many samples. */
class Window {
  private readonly steps: Float64Array;
  private readonly counts: Float64Array;

  constructor(
    private readonly band: Band,
    private readonly rate: number,
  ) {
    this.steps = new Float64Array(Math.max(1, Math.round(band.window * STEPS)));
    this.counts = new Float64Array(this.steps.length);
  }

  /** Takes a step in; gives the loudness of the window that ends with it. */
  close(step: number, found: number, samples: number): number {
    const { steps, counts, band } = this;
    const at = step % steps.length;
    steps[at] = found;
    counts[at] = samples;
    let [all, count] = [0, 0];
    for (let i = 0; i < steps.length; i++) {
      all = band.measure === 'rms' ? all + steps[i]! : Math.max(all, steps[i]!);
      count += counts[i]!;
    }
    // Before a window has passed, what was not there was silent.
    const whole = step + 1 < steps.length ? Math.max(count, band.window * this.rate) : count;
    return band.measure === 'rms' ? Math.sqrt(all / whole) : all;
  }
}

/** Finds the loudness of what it is given in bands, step by step: the same of a file and of what comes in live. */
export class LoudnessMeter {
  private readonly bank: BandBank;
  private readonly windows: Window[];
  private step = 0;
  private samples = 0;
  private inStep = 0;

  /** @param found is told what the loudness of a band is at a step, by its place among the bands */
  constructor(
    private readonly bands: readonly Band[],
    private readonly rate: number,
    private readonly found: (band: number, step: number, loudness: number) => void,
  ) {
    this.windows = bands.map((band) => new Window(band, rate));
    this.bank = new BandBank(bands.map(({ low, high }) => bandFilter(low, high, rate)));
  }

  /** More samples, one after the other; `scale` brings them to -1 to 1. */
  push(channels: readonly ArrayLike<number>[], scale: number, begin: number, end: number): void {
    const { block } = this.bank;
    const [left, right] = [channels[0]!, channels[1] ?? channels[0]!];
    const half = scale / 2;
    for (let from = begin; from < end; from += BLOCK) {
      const count = Math.min(BLOCK, end - from);
      reportProgress();
      for (let i = 0, j = from; i < count; i++, j++) block[i] = (left[j]! + right[j]!) * half;
      this.measure(count);
    }
  }

  /** Adds what a block has to the steps that it lies in. */
  private measure(count: number): void {
    for (let i = 0; i < count;) {
      const until = Math.round(((this.step + 1) * this.rate) / STEPS);
      const stop = Math.min(count, i + until - this.samples);
      this.bank.run(i, stop);
      this.samples += stop - i;
      this.inStep += stop - i;
      i = stop;
      if (this.samples === until) this.close();
    }
  }

  private close(): void {
    this.windows.forEach((window, k) => {
      const found = this.bands[k]!.measure === 'rms' ? this.bank.sum(k) : this.bank.top(k);
      this.found(k, this.step, window.close(this.step, found, this.inStep));
    });
    this.bank.rest();
    // At steps, not at blocks: those of live input come in other places.
    if (this.step % CALM === 0) this.bank.calm();
    this.step += 1;
    this.inStep = 0;
  }
}

/** Loudness of a sound in bands, found as far as the sound goes: one that is being recorded grows. */
class LoudnessTables {
  private readonly tables: Float32Array[];
  private done = 0;
  private readonly meter: LoudnessMeter;

  constructor(
    private readonly sound: Sound,
    bands: readonly Band[],
  ) {
    this.tables = bands.map(() => new Float32Array(64));
    this.meter = new LoudnessMeter(bands, sound.rate, (k, step, loudness) => {
      this.tables[k]![step] = loudness;
    });
  }

  /** Of a band, with 0 behind what there is. */
  values(band: number): Float32Array {
    const { channels } = this.sound;
    const { length } = channels[0]!;
    if (this.done < length) {
      this.makeRoom(Math.floor((length * STEPS) / this.sound.rate) + 2);
      this.meter.push(channels, 1 / FULL_SCALE, this.done, length);
      this.done = length;
    }
    return this.tables[band]!;
  }

  private makeRoom(room: number): void {
    this.tables.forEach((table, k) => {
      if (room <= table.length) return;
      const grown = new Float32Array(this.done === 0 ? room : 2 * room);
      grown.set(table);
      this.tables[k] = grown;
    });
  }
}

/** All that is found of the loudness of a sound; bands that are wanted together are found together. */
class Loudnesses {
  private readonly known = new Map<string, () => Float32Array>();
  private readonly wanted = new Map<string, Band>();

  constructor(private readonly sound: Sound) {}

  of(band: Band): () => Float32Array {
    const key = keyOf(band);
    if (!this.known.has(key)) this.wanted.set(key, band);
    let values: (() => Float32Array) | undefined;
    return () => {
      values ??= this.known.get(key) ?? this.findAll(key);
      return values();
    };
  }

  /** Begins all that was wanted and is not known; gives one of it. */
  private findAll(key: string): () => Float32Array {
    const tables = new LoudnessTables(this.sound, [...this.wanted.values()]);
    [...this.wanted.keys()].forEach((name, k) => {
      this.known.set(name, () => tables.values(k));
    });
    this.wanted.clear();
    return this.known.get(key)!;
  }
}

const keyOf = ({ low, high, measure, window }: Band): string =>
  [low, high, measure, window].join(' ');

/**
 * Loudness of a sound in a band, 0 to 1: `table[k]` is that of the window that ends at (k + 1) / STEPS seconds
 * of it, 0 behind its end. A full sine has a root mean square of 1/√2. It is found when it is asked for, together
 * with all others that were wanted until then.
 */
export function loudnessOf(sound: Sound, band: Band): () => Float32Array {
  return memo(sound, 'loudness', () => new Loudnesses(sound)).of(band);
}

/** A table of steps at a time in seconds: straight from step to step, 0 before its first and behind its last. */
export function stepAt(table: Float32Array, time: number): number {
  const place = time * STEPS - 1;
  // Where a time falls on a step, rounding is not to bring in its neighbours.
  const near = Math.round(place);
  const at = Math.abs(place - near) < 1e-6 ? near : place;
  const low = Math.floor(at);
  const value = (i: number): number => table[i] ?? 0;
  return value(low) + (value(low + 1) - value(low)) * (at - low);
}
