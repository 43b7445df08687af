import { memo } from '../memo';
import { numberAt } from '../played';
import type { Motion, Performer } from '../types';
import type { Bone } from './bones';

/** Somebody as a piece has them: where their joints are is a function of the time alone. */
export interface Performing {
  /** Its name: two of one name are one and the same. */
  name: string;
  /** Names of the joints: of several performers with who it is before it. */
  joints: readonly string[];
  /** Joints that hang on one another, thick as they are. */
  bones: readonly Bone[];
  /** x, y, z of each joint at a second of the piece, in metres. */
  at: (time: number) => Float32Array;
  /** Whether there is a leap between two seconds, as where a motion begins again. */
  leaps: (from: number, to: number) => boolean;
  /** Of live input: beyond the time that is asked for nothing is known. */
  live?: {
    /** Up to this second nobody is there. */
    from: number;
    /** The last frame that is known, up to a frame. */
    known: (frame: number) => number;
  };
}

/** Whether somebody is there at a second of the piece. */
export function isThere({ live }: Performing, time: number): boolean {
  return live === undefined || time > live.from;
}

/** Where all joints of some performers are at a second of the motion, one performer after the other. */
export function posesAt(
  motion: Motion,
  performers: readonly Performer[],
  second: number,
): Float32Array {
  const places = new Float32Array(3 * performers.reduce((sum, p) => sum + p.joints.length, 0));
  let first = 0;
  for (const performer of performers) {
    placesAt(motion, performer, second, places, first);
    first += 3 * performer.joints.length;
  }
  return places;
}

/** Where all joints of a performer are at a second of the motion: straight between samples; at `to` from `first` on. */
export function placesAt(
  { times }: Motion,
  { joints, places }: Performer,
  second: number,
  to: Float32Array,
  first = 0,
): void {
  const low = numberAt({ times }, second);
  const next = Math.min(times.length - 1, low + 1);
  const span = times[next]! - times[low]!;
  const part = span > 0 ? Math.min(1, Math.max(0, (second - times[low]!) / span)) : 0;
  const size = 3 * joints.length;
  for (let i = 0; i < size; i++) {
    const from = places[low * size + i]!;
    to[first + i] = from + (places[next * size + i]! - from) * part;
  }
}

/** How tall the first performer is at the most, and how low any of them comes, in units of the file; y or z up. */
export function extentOf(motion: Motion, up: 'y' | 'z'): { tall: number; floor: number } {
  return memo(motion, `extent ${up}`, () => {
    const axis = up === 'y' ? 1 : 2;
    let [tall, floor] = [0, Infinity];
    motion.performers.forEach(({ joints, places }, who) => {
      for (let k = 0; k < places.length; k += 3 * joints.length) {
        let [low, high] = [Infinity, -Infinity];
        for (let i = 0; i < joints.length; i++) {
          const height = places[k + 3 * i + axis]!;
          low = Math.min(low, height);
          high = Math.max(high, height);
        }
        floor = Math.min(floor, low);
        if (who === 0) tall = Math.max(tall, high - low);
      }
    });
    return { tall, floor };
  });
}
