import { z } from '../zod';

/** Most numbers in a take: an hour at 60 frames a second. */
const MOST = 216_000;

/**
 * A number from outside, recorded frame by frame: `values[i]` is what it was at the end of frame
 * `first + i`, at (first + i + 1) / rate seconds.
 */
export const takeSchema = z.strictObject({
  rate: z.number().min(1).max(240),
  first: z.number().int().min(0),
  values: z.array(z.number().min(-1e6).max(1e6)).max(MOST),
});
export type Take = z.infer<typeof takeSchema>;

/**
 * A take at a time in seconds: straight from frame to frame, after the last as the last.
 *
 * @param rest what it is before the first
 */
export function takeAt({ rate, first, values }: Take, time: number, rest: number): number {
  // Where a time falls on a frame, rounding is not to bring in its neighbours.
  const at = time * rate - 1 - first;
  const near = Math.round(at);
  const place = Math.abs(at - near) < 1e-6 ? near : at;
  const low = Math.floor(place);
  const value = (i: number): number => (i < 0 ? rest : (values[i] ?? values.at(-1) ?? rest));
  return value(low) + (value(low + 1) - value(low)) * (place - low);
}

/** A take that goes on being recorded; what reads it sees every new number. */
export class LiveTake implements Take {
  readonly rate: number;
  readonly values: number[];
  first: number;
  /** Frames in the order in which they were written. */
  private readonly written: number[] = [];

  /** @param before what was recorded so far; brought to the rate where it has another */
  constructor(before: Take, rate: number, rest: number) {
    this.rate = rate;
    const end = (before.first + before.values.length) / before.rate;
    const same = before.rate === rate;
    this.first = same ? before.first : Math.round((before.first / before.rate) * rate);
    const count = same ? 0 : Math.max(0, Math.round(end * rate) - this.first);
    this.values = same
      ? [...before.values]
      : Array.from({ length: count }, (_, i) => takeAt(before, (this.first + i + 1) / rate, rest));
  }

  /** Records what it is at the end of a frame. Frames that were left out are as the one before. */
  write(frame: number, value: number): void {
    const { values } = this;
    if (frame < 0 || frame >= MOST) return;
    if (values.length === 0) this.first = frame;
    this.written.push(frame);
    if (frame < this.first) {
      values.unshift(...Array.from({ length: this.first - frame }, () => value));
      this.first = frame;
    }
    while (this.first + values.length < frame) values.push(values.at(-1)!);
    values[frame - this.first] = value;
  }

  /** Grows with every number: what was worked out from the take may be something else now. */
  get changes(): number {
    return this.written.length;
  }

  /** The second from which on it may be something else, since it had changed so often at the least. */
  changedFrom(changes: number): number {
    let first = Infinity;
    for (let i = Math.min(changes, this.written.length); i < this.written.length; i++) {
      first = Math.min(first, this.written[i]!);
    }
    return first / this.rate;
  }

  /** The take as it is recorded so far. */
  copy(): Take {
    return { rate: this.rate, first: this.first, values: [...this.values] };
  }
}
