/** A pose on its way, by the clock of who sent it, in seconds. */
interface Sent {
  time: number;
  places: Float32Array;
}

/** Seconds for which it is remembered how long poses were on their way. */
const REMEMBERED = 2;
/** Poses that are kept. */
const KEPT = 256;
/** Seconds that are waited for those who are late, at the most. */
const MOST_BEHIND = 0.1;
/** Seconds: a clock that goes back, or on, by more is another one. */
const [BACK, ON] = [1, 60];
/** How much slower and faster than the clock what is played may go, and in what time a long gap is made up for. */
const [SLOWEST, FASTEST, GLIDE] = [0.5, 2, 0.1];

/**
 * Poses of somebody that arrive late, out of order, or not at all, as a movement: straight between those that are there,
 * a little behind the newest, so that the next has come before it is wanted. Time never goes back; from one look to the
 * next it goes on by twice the time that has passed at the most, or, where more than that is to be made up for, by the
 * part of it that is made up for in a tenth of a second. So no joint goes further than it really went in that time.
 */
export class Arrivals {
  private readonly poses: Sent[] = [];
  /** Seconds from sending to arrival, by when they arrived, within what is remembered. */
  private ways: { at: number; way: number }[] = [];
  /** The latest look: now, and the second by the sender's clock. */
  private last: { now: number; time: number } | null = null;

  /** A pose of a second by the sender's clock has arrived at a second by ours. */
  take(time: number, arrived: number, places: Float32Array): void {
    const { poses } = this;
    const newest = poses.at(-1)?.time ?? time;
    if (time < newest - BACK || time > newest + ON) this.anew();
    this.ways.push({ at: arrived, way: arrived - time });
    if (this.ways.length > KEPT || this.ways[0]!.at < arrived - REMEMBERED) {
      this.ways = this.ways.filter(({ at }) => at >= arrived - REMEMBERED).slice(-KEPT);
    }
    let at = poses.length;
    while (at > 0 && poses[at - 1]!.time > time) at -= 1;
    // Of two of one time the later counts.
    if (at > 0 && poses[at - 1]!.time === time) poses[at - 1] = { time, places };
    else poses.splice(at, 0, { time, places });
    if (poses.length > KEPT) poses.shift();
  }

  private anew(): void {
    this.poses.length = 0;
    this.ways = [];
    this.last = null;
  }

  /** The pose at a second by our clock; null before the first. */
  at(now: number): Float32Array | null {
    const { poses } = this;
    if (poses.length === 0) return null;
    const time = this.goOn(now);
    let next = poses.length - 1;
    while (next > 0 && poses[next - 1]!.time > time) next -= 1;
    const [a, b] = [poses[Math.max(0, next - 1)]!, poses[next]!];
    const span = b.time - a.time;
    const part = span > 0 ? Math.min(1, Math.max(0, (time - a.time) / span)) : 1;
    return a.places.map((v, i) => v + (b.places[i]! - v) * part);
  }

  /** The second by the sender's clock that is shown now. */
  private goOn(now: number): number {
    const { last, poses } = this;
    const newest = poses.at(-1)!.time;
    const wanted = Math.min(newest, now - this.behind());
    let time = wanted;
    if (last) {
      const passed = Math.max(0, now - last.now);
      const lag = wanted - last.time;
      const most = Math.max(FASTEST * passed, Math.min(1, passed / GLIDE) * lag);
      time = last.time + Math.min(most, Math.max(SLOWEST * passed, lag));
    }
    // What has not come is not known, and what was shown is not taken back.
    time = Math.max(Math.min(time, newest), last?.time ?? -Infinity);
    this.last = { now, time };
    return time;
  }

  /** Seconds between our clock and what is shown of the sender's: the fastest way, and what has to be waited for. */
  private behind(): number {
    const fastest = Math.min(...this.ways.map(({ way }) => way));
    const latest = Math.max(...this.ways.map(({ way }) => way));
    return fastest + Math.min(MOST_BEHIND, latest - fastest + this.interval());
  }

  /** Seconds from pose to pose: the middle of what it has been of late. */
  private interval(): number {
    const { poses } = this;
    const times = poses.slice(-16).map((p) => p.time);
    const spans = times.slice(1).map((t, i) => t - times[i]!);
    return spans.sort((a, b) => a - b)[spans.length >> 1] ?? 0;
  }
}
