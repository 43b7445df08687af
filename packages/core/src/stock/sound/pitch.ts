import FFT from 'fft.js';
import { reportProgress } from '../../progress';
import { memo } from '../memo';
import { FULL_SCALE, type Sound } from '../types';

/** Pitches that are found a second, and seconds that each looks back over. */
export const PITCHES = 60;
const WINDOW = 0.085;

/** The strongest frequency by time: entry k is that of the window that ends at (k + 1) / PITCHES seconds. */
export interface Pitches {
  /** How many there are. */
  count: number;
  /** Hz; 0 where nothing is heard. */
  frequency: Float32Array;
  /** The part of what is heard that lies round it, 0 to 1. */
  sureness: Float32Array;
  /** Root mean square under the window, 0 to 1. */
  loudness: Float32Array;
}

/**
 * The strongest frequency of a sound between two, by the peak of its spectrum under a Hann window, between bins by
 * a parabola through the logarithms of three (J. O. Smith, "Spectral Audio Signal Processing", 2011). Found as far
 * as the sound goes: one that is being recorded grows.
 */
class PitchTable implements Pitches {
  count = 0;
  frequency = new Float32Array(0);
  sureness = new Float32Array(0);
  loudness = new Float32Array(0);
  private readonly size: number;
  private readonly spectrum: Spectrum;
  private readonly block: Float64Array;

  constructor(
    private readonly sound: Sound,
    private readonly low: number,
    private readonly high: number,
  ) {
    this.size = 2 ** Math.round(Math.log2(sound.rate * WINDOW));
    this.spectrum = new Spectrum(this.size);
    this.block = new Float64Array(this.size);
  }

  grow(): this {
    const { rate, channels } = this.sound;
    const count = Math.floor((channels[0]!.length * PITCHES) / rate);
    if (count > this.frequency.length) {
      for (const key of ['frequency', 'sureness', 'loudness'] as const) {
        const grown = new Float32Array(this.count === 0 ? count : 2 * count);
        grown.set(this[key]);
        this[key] = grown;
      }
    }
    for (; this.count < count; this.count++) this.find(this.count);
    return this;
  }

  private find(k: number): void {
    const { size, spectrum, block, low, high } = this;
    const { rate } = this.sound;
    const sum = takeBlock(this.sound, Math.round(((k + 1) * rate) / PITCHES), block, spectrum.hann);
    // The mean of a squared Hann window is 3/8.
    this.loudness[k] = Math.sqrt(sum / size / 0.375);
    const peak = peakOf(spectrum.of(block), (size * low) / rate, (size * high) / rate);
    if (!peak) return;
    this.frequency[k] = (peak.bin * rate) / size;
    this.sureness[k] = peak.part;
  }
}

/** The pitches of a sound between two frequencies in Hz. */
export function pitchesOf(sound: Sound, low: number, high: number): Pitches {
  const key = `pitch ${String(low)} ${String(high)}`;
  return memo(sound, key, () => new PitchTable(sound, low, high)).grow();
}

/** Fills a block with what ends at a sample, both channels as one; the sum of its squares under a window. */
export function takeBlock(
  { channels }: Sound,
  end: number,
  block: Float64Array,
  window: Float64Array,
): number {
  const size = block.length;
  let sum = 0;
  reportProgress();
  for (let i = 0; i < size; i++) {
    const at = end - size + i;
    let v = 0;
    for (const channel of channels) v += channel[at] ?? 0;
    block[i] = v / channels.length / FULL_SCALE;
    sum += (block[i]! * window[i]!) ** 2;
  }
  return sum;
}

/** Power of the frequencies of blocks of one size. */
export class Spectrum {
  private readonly fft: FFT;
  readonly hann: Float64Array;
  private readonly input: Float64Array;
  private readonly output: number[];
  private readonly power: Float64Array;

  /** @param size samples, a power of two */
  constructor(private readonly size: number) {
    this.fft = new FFT(size);
    this.hann = Float64Array.from(
      { length: size },
      (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size),
    );
    this.input = new Float64Array(size);
    this.output = this.fft.createComplexArray() as number[];
    this.power = new Float64Array(size / 2);
  }

  /** Bin k is the frequency k · rate / size; the same array each time. */
  of(block: Float64Array): Float64Array {
    for (let i = 0; i < this.size; i++) this.input[i] = block[i]! * this.hann[i]!;
    this.fft.realTransform(this.output, this.input);
    for (let k = 0; k < this.power.length; k++) {
      this.power[k] = this.output[2 * k]! ** 2 + this.output[2 * k + 1]! ** 2;
    }
    return this.power;
  }
}

function peakOf(
  power: Float64Array,
  low: number,
  high: number,
): { bin: number; part: number } | null {
  const first = Math.max(1, Math.floor(low));
  const last = Math.min(power.length - 2, Math.ceil(high));
  let [best, all] = [first, 0];
  for (let k = first; k <= last; k++) {
    all += power[k]!;
    if (power[k]! > power[best]!) best = k;
  }
  if (!(power[best]! > 0) || last <= first) return null;
  const [a, b, c] = [-1, 0, 1].map((d) => Math.log(Math.max(1e-30, power[best + d]!)));
  const bend = a! - 2 * b! + c!;
  const off = bend < 0 ? (0.5 * (a! - c!)) / bend : 0;
  let near = 0;
  for (let k = Math.max(first, best - 2); k <= Math.min(last, best + 2); k++) near += power[k]!;
  return { bin: best + off, part: near / all };
}
