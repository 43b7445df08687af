import { memo } from '../memo';
import { FULL_SCALE, type Sound } from '../types';
import { bandFilter } from './biquad';
import { BiquadChain } from './biquadChain';

/** Loudness is found so many times a second, whatever the rate of the piece. */
export const STEPS = 240;
/** Seconds of a sound beyond a time that signals may read for it: what lies between steps is read from both. */
export const HEARD_AHEAD = 2 / STEPS;
/** Samples that are filtered at once. */
const BLOCK = 2048;

export interface Band {
  /** Hz. */
  low: number;
  high: number;
  measure: 'rms' | 'peak';
  /** Seconds that are looked back over. */
  window: number;
}

/** Finds the loudness of what it is given, step by step: the same of a file and of what comes in live. */
export class LoudnessMeter {
  private readonly chain: BiquadChain;
  private readonly block = new Float64Array(BLOCK);
  /** Of the last steps: the sum of squares, or the largest; and how many samples. */
  private readonly steps: Float64Array;
  private readonly counts: Float64Array;
  private step = 0;
  private samples = 0;
  private sum = 0;
  private top = 0;
  private inStep = 0;

  constructor(
    private readonly band: Band,
    private readonly rate: number,
    private readonly found: (loudness: number) => void,
  ) {
    this.chain = new BiquadChain(bandFilter(band.low, band.high, rate));
    this.steps = new Float64Array(Math.max(1, Math.round(band.window * STEPS)));
    this.counts = new Float64Array(this.steps.length);
  }

  /** More samples, one after the other; `scale` brings them to -1 to 1. */
  push(channels: readonly ArrayLike<number>[], scale: number, begin: number, end: number): void {
    const { block, chain } = this;
    const [left, right] = [channels[0]!, channels[1] ?? channels[0]!];
    const half = scale / 2;
    for (let from = begin; from < end; from += BLOCK) {
      const count = Math.min(BLOCK, end - from);
      for (let i = 0; i < count; i++) block[i] = (left[from + i]! + right[from + i]!) * half;
      chain.run(block, count);
      this.measure(count);
    }
  }

  /** Adds what a block has to the steps that it lies in. */
  private measure(count: number): void {
    const { block, rate } = this;
    for (let i = 0; i < count;) {
      const until = Math.round(((this.step + 1) * rate) / STEPS);
      const stop = Math.min(count, i + until - this.samples);
      this.samples += stop - i;
      this.inStep += stop - i;
      let [sum, top] = [this.sum, this.top];
      for (; i < stop; i++) {
        const v = block[i]!;
        sum += v * v;
        const size = Math.abs(v);
        if (size > top) top = size;
      }
      [this.sum, this.top] = [sum, top];
      if (this.samples === until) this.close();
    }
  }

  private close(): void {
    const { steps, counts, band } = this;
    const at = this.step % steps.length;
    steps[at] = band.measure === 'rms' ? this.sum : this.top;
    counts[at] = this.inStep;
    this.step += 1;
    [this.sum, this.top, this.inStep] = [0, 0, 0];
    let [all, count] = [0, 0];
    for (let i = 0; i < steps.length; i++) {
      all = band.measure === 'rms' ? all + steps[i]! : Math.max(all, steps[i]!);
      count += counts[i]!;
    }
    // Before a window has passed, what was not there was silent.
    const whole = this.step < steps.length ? Math.max(count, band.window * this.rate) : count;
    this.found(band.measure === 'rms' ? Math.sqrt(all / whole) : all);
  }
}

/** Loudness of a sound in a band, found as far as the sound goes: one that is being recorded grows. */
class LoudnessTable {
  private table = new Float32Array(64);
  private count = 0;
  private done = 0;
  private readonly meter: LoudnessMeter;

  constructor(
    private readonly sound: Sound,
    band: Band,
  ) {
    this.meter = new LoudnessMeter(band, sound.rate, (v) => (this.table[this.count++] = v));
  }

  /** With 0 behind what there is. */
  values(): Float32Array {
    const { channels, rate } = this.sound;
    const { length } = channels[0]!;
    if (this.done < length) {
      const room = Math.floor((length * STEPS) / rate) + 2;
      if (room > this.table.length) {
        const grown = new Float32Array(this.done === 0 ? room : 2 * room);
        grown.set(this.table.subarray(0, this.count));
        this.table = grown;
      }
      this.meter.push(channels, 1 / FULL_SCALE, this.done, length);
      this.done = length;
    }
    return this.table;
  }
}

/**
 * Loudness of a sound in a band, 0 to 1: `table[k]` is that of the window that ends at (k + 1) / STEPS seconds
 * of it, 0 behind its end. A full sine has a root mean square of 1/√2.
 */
export function loudnessOf(sound: Sound, band: Band): Float32Array {
  const key = `loudness ${[band.low, band.high, band.measure, band.window].join(' ')}`;
  return memo(sound, key, () => new LoudnessTable(sound, band)).values();
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
