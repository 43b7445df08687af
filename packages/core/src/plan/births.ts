import type { DialValues } from '../catalogue/dials';
import { rangeOf, type NumberFeed } from '../feeds/feeds';

/** Particles born in one step at even distances in time. */
export interface BirthEvent {
  /** Id of the first; the others follow. */
  first: number;
  count: number;
  /** When the first is born, in seconds of the piece. */
  time: number;
  /** Seconds between one and the next. */
  every: number;
}

/** Against rounding where a birth falls on the border of two frames. */
const TINY = 1e-9;

/**
 * When particles are born, in closed form: the count born before any time is known without
 * counting up to it, so that births per second are exact at any frame rate and any frame can be
 * reached from any other. A birth belongs to the step whose start it does not precede.
 */
export class BirthSchedule {
  private readonly rate: number;
  private readonly start: number;
  private readonly end: number;
  private readonly burst: number;
  private readonly burstAt: number;
  private readonly loop: number;

  /** @param begin the beginning of simulated time in seconds (the pre-roll's, 0 or less) */
  constructor(
    dials: DialValues,
    private readonly begin: number,
  ) {
    const dial = (key: string): number => dials[key] as number;
    // Times count from the piece's 0; what starts at 0 starts with the pre-roll.
    const moment = (key: string): number => (dial(key) <= 0 ? 0 : dial(key) - begin);
    this.rate = dial('rate');
    this.start = moment('start');
    this.end = Math.max(this.start, dial('end') - begin);
    this.burst = dial('burst');
    this.burstAt = moment('burstAt');
    this.loop = dial('loop');
  }

  /** Rate births in one pass before `local` seconds: the k-th comes at start + k / rate. */
  private steady(local: number): number {
    const span = Math.min(local, this.end) - this.start;
    return span > 0 ? Math.max(0, Math.ceil(this.rate * span - TINY * this.rate - TINY)) : 0;
  }

  private inPass(local: number): number {
    return this.steady(local) + (local > this.burstAt + TINY ? this.burst : 0);
  }

  /** Seconds since the beginning as (pass, seconds in the pass). */
  private passAt(since: number): [number, number] {
    if (this.loop <= 0) return [0, since];
    const pass = Math.floor(since / this.loop + TINY);
    return [pass, Math.max(0, since - pass * this.loop)];
  }

  /** How many are born before `time` (seconds of the piece). */
  bornBefore(time: number): number {
    const since = time - this.begin;
    if (since <= 0) return 0;
    const [pass, local] = this.passAt(since);
    return pass * (pass > 0 ? this.inPass(this.loop) : 0) + this.inPass(local);
  }

  /** The births from `from` up to, but not at, `to`. */
  between(from: number, to: number): BirthEvent[] {
    const events: BirthEvent[] = [];
    let first = this.bornBefore(from);
    const [begin, end] = [from - this.begin, to - this.begin];
    let [pass, local] = this.passAt(Math.max(0, begin));
    const add = (count: number, at: number, every: number): void => {
      if (count <= 0) return;
      const time = this.begin + pass * this.loop + at;
      events.push({ first, count, time, every });
      first += count;
    };
    for (;;) {
      const left = end - pass * this.loop;
      const stop = this.loop > 0 ? Math.min(this.loop, left) : left;
      const [before, after] = [this.steady(local), this.steady(stop)];
      const bursts = this.burst > 0 && this.burstAt + TINY < stop && this.burstAt + TINY >= local;
      if (bursts) add(this.burst, this.burstAt, 0);
      add(after - before, this.start + before / this.rate, 1 / this.rate);
      if (this.loop <= 0 || left <= this.loop + TINY) return events;
      pass += 1;
      local = 0;
    }
  }
}

/**
 * The most particles alive at once, over steps of `step` seconds up to `end`: births within a
 * window of the longest lifetime, since slots are used again in order of birth.
 */
export function mostAlive(
  schedule: BirthSchedule,
  lifetime: NumberFeed,
  begin: number,
  end: number,
  step: number,
): number {
  const window = Math.ceil(rangeOf(lifetime)[1] / step) + 1;
  const frames = Math.round((end - begin) / step);
  const born = new Float64Array(frames + 1);
  let most = 0;
  for (let i = 0; i <= frames; i++) {
    born[i] = schedule.bornBefore(begin + i * step);
    most = Math.max(most, born[i]! - born[Math.max(0, i - window)]!);
  }
  return most;
}
