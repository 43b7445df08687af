import { FULL_SCALE, type Sound } from '../types';
import { StockError } from './error';

/** Most numbers of one sound: an hour of stereo at 55 kHz, 800 MB. */
const MOST = 400e6;

/** Gathers what is decoded of a sound, piece by piece. */
export class Samples {
  private readonly parts: Int16Array[][] = [];
  private length = 0;
  private rate = 0;
  private first = 0;
  private most = Infinity;

  constructor(
    private readonly name: string,
    private readonly longest = MOST,
  ) {}

  /**
   * More of it, -1 to 1; what is beyond is cut off there. Of more channels than two their mean is kept.
   * @throws StockError where it grows too long, or holds what is no number
   */
  push(channels: Float32Array[], rate: number): void {
    const [first] = channels;
    if (!first || first.length === 0) return;
    if (this.rate && rate !== this.rate) {
      throw new StockError(
        this.name,
        `its rate changes from ${this.rate} to ${rate} Hz on the way`,
      );
    }
    this.rate = rate;
    const kept = channels.length > 2 ? [mean(channels)] : channels;
    if ((this.length + first.length) * kept.length > this.longest) {
      const minutes = Math.floor(this.longest / kept.length / rate / 60);
      throw new StockError(
        this.name,
        `it is too long: ${String(minutes)} minutes of its kind are the most`,
      );
    }
    this.parts.push(kept.map((channel) => this.rounded(channel)));
    this.length += first.length;
  }

  /** Leaves out the first seconds, and what comes behind so many. */
  keep(from: number, seconds: number): void {
    this.first = Math.round(from * this.rate);
    this.most = Math.round(seconds * this.rate);
  }

  private rounded(channel: Float32Array): Int16Array {
    const out = new Int16Array(channel.length);
    for (let i = 0; i < channel.length; i++) {
      const value = channel[i]!;
      if (!Number.isFinite(value)) {
        const at = ((this.length + i) / this.rate).toFixed(4);
        throw new StockError(this.name, `at ${at} s stands what is no number (NaN or infinite)`);
      }
      out[i] = sampleOf(value);
    }
    return out;
  }

  /** @throws StockError where there is nothing in it */
  sound(): Sound {
    const { length, rate } = this;
    if (length === 0) throw new StockError(this.name, 'there is no sound in it: it has no samples');
    const count = Math.max(...this.parts.map((p) => p.length));
    const channels = Array.from({ length: count }, () => new Int16Array(length));
    let at = 0;
    for (const part of this.parts) {
      // A part of one channel stands in both.
      for (const [k, to] of channels.entries()) to.set(part[k] ?? part[0]!, at);
      at += part[0]!.length;
    }
    const { first, most } = this;
    const kept = channels.map((channel) => channel.slice(first, first + Math.max(1, most)));
    return { type: 'sound', rate, channels: kept };
  }
}

/** A number from -1 to 1 as a sample; what is beyond is cut off there. */
export function sampleOf(value: number): number {
  return Math.max(-FULL_SCALE, Math.min(FULL_SCALE - 1, Math.round(value * FULL_SCALE)));
}

function mean(channels: Float32Array[]): Float32Array {
  const part = 1 / channels.length;
  return channels[0]!.map((_, i) => channels.reduce((sum, c) => sum + c[i]! * part, 0));
}
