import { Growing } from '../growing';
import { HEARD_AHEAD } from '../sound/loudness';
import type { Motion, Performer } from '../types';
import type { CastMember } from './cast';

/** Most numbers of a take: five million rows of a table. */
const MOST = 15_000_000;

/**
 * How performers move who are live, one pose a frame; what reads it sees all that there is so far. Who they are, and how
 * they stand at first, does not change: bones are measured in the first pose.
 */
export class LiveMotion implements Motion {
  readonly type = 'motion';
  readonly performers: readonly Performer[];
  private readonly seconds = new Growing(new Float64Array(1024));
  private count = 0;
  private ended = false;
  private readonly parts: Growing<Float32Array>[];

  /**
   * @param first x, y, z of all joints of the first of the cast, then of the next, and so on
   * @param rate frames a second
   * @param start frame of the piece at which it begins
   */
  constructor(
    cast: readonly CastMember[],
    first: Float32Array,
    readonly rate: number,
    readonly start: number,
  ) {
    const parts = cast.map(() => new Growing(new Float32Array(2 ** 14)));
    this.parts = parts;
    this.performers = cast.map(({ name, joints }, i) => ({
      name,
      joints,
      get places() {
        return parts[i]!.all;
      },
    }));
    this.append(first);
  }

  /** Seconds from the first pose. */
  get times(): Float64Array {
    return this.seconds.all;
  }

  /** How many poses there are: it grows with each. */
  get changes(): number {
    return this.count;
  }

  /** Whether there is room for no more. */
  get full(): boolean {
    const joints = this.performers.reduce((sum, p) => sum + p.joints.length, 0);
    return 3 * joints * (this.count + 1) > MOST;
  }

  /** The last frame that is known, up to a frame: of those that come nothing is, until the recording has ended. */
  known(frame: number): number {
    return this.ended ? frame : Math.min(frame, this.start + this.count - 1);
  }

  /** The second of the piece from which on it may be something else, since it had so many poses. */
  changedFrom(changes: number): number {
    if (changes >= this.count) return Infinity;
    return changes === 0
      ? -Infinity
      : beginsAtSecond(this.start, this.rate) + this.times[changes - 1]!;
  }

  /** The pose of the next frame, of all as in the first. */
  append(pose: Float32Array): void {
    let at = 0;
    this.performers.forEach(({ joints }, i) => {
      this.parts[i]!.append(pose.subarray(at, (at += 3 * joints.length)));
    });
    this.seconds.append([this.count / this.rate]);
    this.count += 1;
  }

  /** Ends it: they stay as they are. */
  end(): Motion {
    this.ended = true;
    const performers = this.performers.map(({ name, joints, places }) => ({
      name,
      joints,
      places: places.slice(),
    }));
    return { type: 'motion', times: this.times.slice(), performers };
  }
}

/**
 * The second of the piece at which the first pose of a take is there that begins at a frame: as far behind the frame's end
 * as anything that is worked out for it looks ahead, so that all of it is known by then.
 */
export function beginsAtSecond(start: number, rate: number): number {
  return (start + 1) / rate + HEARD_AHEAD;
}

/** The first pose of a motion, as one of its own. */
export function firstPose({ performers }: Motion): Motion {
  return {
    type: 'motion',
    times: new Float64Array(1),
    performers: performers.map(({ name, joints, places }) => ({
      name,
      joints,
      places: places.slice(0, 3 * joints.length),
    })),
  };
}
