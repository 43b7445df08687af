import { birthsIn, takesEachPlace, type SwarmValues } from '../../sections/swarms/swarmDials';
import { rangeOf, type NumberFeed } from '../../feeds/feeds';
import type { Scene } from '../scene';
import type { Bursts } from '../score/score';

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

/** The births of a swarm, frame by frame. */
export interface Births {
  /** Ids below this have been born at the end of a frame. */
  bornAt(frame: number): number;
  /** Those of a frame; seconds are those of the frame where the piece comes round, see phaseOf. */
  inFrame(frame: number): BirthEvent[];
}

/** The births of a piece that does not come round. */
export function birthsByFrame(schedule: BirthSchedule, rate: number): Births {
  return {
    bornAt: (frame) => schedule.bornBefore((frame + 1) / rate),
    inFrame: (frame) => schedule.between(frame / rate, (frame + 1) / rate),
  };
}

/** Seconds: bursts and loops come no faster, or a step would have no end of them. */
const SHORTEST = 1e-3;

const atLeast = (seconds: number): number => (seconds > 0 ? Math.max(SHORTEST, seconds) : 0);

/** Against rounding where a birth falls on the border of two frames. */
const TINY = 1e-9;

/**
 * When particles are born, in closed form: the count born before any time is known without
 * counting up to it, so that births per second are exact at any frame rate and any frame can be
 * reached from any other. A birth belongs to the step whose start it does not precede.
 */
export class BirthSchedule {
  private readonly steady: Steady;
  private readonly burst: number;
  private readonly burstAt: number;
  private readonly burstEvery: number;
  private readonly loop: number;
  private readonly fired: (time: number) => Bursts;

  /**
   * @param begin the beginning of simulated time in seconds (the pre-roll's, 0 or less)
   * @param fired what cues let be born before a second, beside the rest
   * @param each births that give each of the emitter's places one; null where it has none to count
   */
  constructor(
    dials: SwarmValues,
    private readonly begin: number,
    scene: Pick<Scene, 'follow' | 'rate' | 'density' | 'changes'>,
    each: number | null = null,
    fired: ((time: number) => Bursts) | null = null,
  ) {
    this.fired = fired ?? (() => []);
    // Times count from the piece's 0; what starts at 0 starts with the pre-roll.
    const moment = (at: number): number => (at <= 0 ? 0 : at - begin);
    const start = moment(dials.start);
    const { rate, burst } = birthsIn(dials);
    const places = takesEachPlace(dials);
    const end = places ? Infinity : Math.max(start, dials.end - begin);
    const steady =
      typeof rate === 'number'
        ? new EvenRate(rate * scene.density, start, end)
        : new DrivenRate(more(scene.follow(rate), scene.density), start, end, begin, scene);
    this.steady = places ? new AtMost(each ?? 0, steady) : steady;
    const once = dials.when === 'once';
    this.burst = once ? (each ?? 0) : Math.round(burst * scene.density);
    this.burstAt = once ? start : moment(dials.burstAt);
    this.burstEvery = once ? 0 : atLeast(dials.burstEvery);
    this.loop = atLeast(dials.loop);
  }

  /** Bursts in one pass before `local` seconds. */
  private burstsBefore(local: number): number {
    const since = local - this.burstAt - TINY;
    if (this.burst === 0 || since <= 0) return 0;
    return this.burstEvery > 0 ? Math.ceil(since / this.burstEvery) : 1;
  }

  private inPass(local: number): number {
    return this.steady.before(local) + this.burstsBefore(local) * this.burst;
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
    const cued = this.fired(time - TINY).reduce((sum, { count }) => sum + count, 0);
    return cued + pass * (pass > 0 ? this.inPass(this.loop) : 0) + this.inPass(local);
  }

  /** The births from `from` up to, but not at, `to`. */
  between(from: number, to: number): BirthEvent[] {
    const events: BirthEvent[] = [];
    let first = this.bornBefore(from);
    const [begin, end] = [from - this.begin, to - this.begin];
    let [pass, local] = this.passAt(Math.max(0, begin));
    const born = (count: number, time: number, every: number): void => {
      if (count <= 0) return;
      events.push({ first, count, time, every });
      first += count;
    };
    const add = (count: number, at: number, every: number): void => {
      born(count, this.begin + pass * this.loop + at, every);
    };
    const before = this.fired(from - TINY).length;
    for (const { at, count } of this.fired(to - TINY).slice(before)) born(count, at, 0);
    for (;;) {
      const left = end - pass * this.loop;
      const stop = this.loop > 0 ? Math.min(this.loop, left) : left;
      for (let k = this.burstsBefore(local); k < this.burstsBefore(stop); k++) {
        add(this.burst, this.burstAt + k * this.burstEvery, 0);
      }
      const { count, at, every } = this.steady.between(local, stop);
      add(count, at, every);
      if (this.loop <= 0 || left <= this.loop + TINY) return events;
      pass += 1;
      local = 0;
    }
  }
}

function more(follow: (time: number) => number, factor: number): (time: number) => number {
  return (time) => follow(time) * factor;
}

/** Births at a rate within one pass; seconds count from its beginning. */
interface Steady {
  before(local: number): number;
  between(from: number, to: number): { count: number; at: number; every: number };
}

/** The k-th birth comes at start + k / rate. */
class EvenRate implements Steady {
  constructor(
    private readonly rate: number,
    private readonly start: number,
    private readonly end: number,
  ) {}

  before(local: number): number {
    const span = Math.min(local, this.end) - this.start;
    return span > 0 ? Math.max(0, Math.ceil(this.rate * span - TINY * this.rate - TINY)) : 0;
  }

  between(from: number, to: number): { count: number; at: number; every: number } {
    const before = this.before(from);
    const every = 1 / this.rate;
    return { count: this.before(to) - before, at: this.start + before * every, every };
  }
}

/**
 * A rate that changes with time: the sum of what each frame's rate gives in that frame, so that any
 * count is known by adding up once.
 */
class DrivenRate implements Steady {
  private sums: number[] = [0];
  private changes = 0;

  constructor(
    private readonly rate: (time: number) => number,
    private readonly start: number,
    private readonly end: number,
    private readonly begin: number,
    private readonly scene: Pick<Scene, 'rate' | 'changes'>,
  ) {}

  private get frames(): number {
    return this.scene.rate;
  }

  /** Births, whole and part, up to `local`. */
  private sum(local: number): number {
    const changes = this.scene.changes();
    if (changes !== this.changes) this.sums = [0];
    this.changes = changes;
    const at = Math.max(0, local * this.frames + TINY);
    const whole = Math.floor(at);
    while (this.sums.length <= whole + 1) {
      const i = this.sums.length - 1;
      const time = i / this.frames;
      const on = time >= this.start - TINY && time < this.end - TINY;
      const rate = on ? Math.max(0, this.rate(this.begin + time)) : 0;
      this.sums.push(this.sums[i]! + rate / this.frames);
    }
    const [a, b] = [this.sums[whole]!, this.sums[whole + 1]!];
    return a + (b - a) * Math.max(0, at - whole - TINY);
  }

  before(local: number): number {
    return Math.floor(this.sum(local) + TINY);
  }

  between(from: number, to: number): { count: number; at: number; every: number } {
    const count = this.before(to) - this.before(from);
    const every = (to - from) / Math.max(1, count);
    return { count, at: from + every / 2, every };
  }
}

/** The same until so many are born. */
class AtMost implements Steady {
  constructor(
    private readonly most: number,
    private readonly steady: Steady,
  ) {}

  before(local: number): number {
    return Math.min(this.most, this.steady.before(local));
  }

  between(from: number, to: number): { count: number; at: number; every: number } {
    return { ...this.steady.between(from, to), count: this.before(to) - this.before(from) };
  }
}

/**
 * The most particles alive at once, over steps of `step` seconds up to `end`: births within a
 * window of the longest lifetime, since slots are used again in order of birth.
 */
export function mostAlive(
  schedule: Pick<BirthSchedule, 'bornBefore'>,
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
