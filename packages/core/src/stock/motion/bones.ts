import { memo } from '../memo';
import type { Motion } from '../types';

/** Two joints that hang on one another, by their numbers, with the radius of the capsule about them in metres. */
export interface Bone {
  from: number;
  to: number;
  radius: number;
  /** Metres, as a mean over the motion. */
  length: number;
}

/** Part of its length that a bone is thick where nothing else is said. */
const SLENDER = 0.22;
/** Parts of somebody's height: no bone is thinner, none thicker. */
const [THIN, THICK] = [0.014, 0.075];

/**
 * The bones of a motion's performers as capsules: as thick as suits their length and the height of who has them.
 * Joints are numbered through all performers.
 *
 * @param scale metres for a unit of the motion
 * @param tall metres
 */
export function bonesOf(
  motion: Motion,
  who: readonly number[],
  scale: number,
  tall: number,
): Bone[] {
  let first = 0;
  return who.flatMap((n) => {
    const { joints } = motion.performers[n]!;
    const lengths = lengthsOf(motion, n);
    const begin = first;
    first += joints.length;
    return joints.flatMap(({ parent }, i): Bone[] => {
      if (parent < 0) return [];
      const length = lengths[i]! * scale;
      const radius = Math.min(THICK * tall, Math.max(THIN * tall, SLENDER * length));
      return [{ from: begin + parent, to: begin + i, radius, length }];
    });
  });
}

/** The mean distance of each joint from the one it hangs on, in units of the motion. */
function lengthsOf(motion: Motion, n: number): Float64Array {
  return memo(motion, `lengths ${String(n)}`, () => {
    const { joints, places } = motion.performers[n]!;
    const [count, samples] = [joints.length, motion.times.length];
    const every = Math.max(1, Math.floor(samples / 240));
    const sums = new Float64Array(count);
    let taken = 0;
    for (let k = 0; k < samples; k += every, taken++) {
      joints.forEach(({ parent }, i) => {
        if (parent < 0) return;
        const [p, q] = [3 * (k * count + i), 3 * (k * count + parent)];
        sums[i]! += Math.hypot(
          places[p]! - places[q]!,
          places[p + 1]! - places[q + 1]!,
          places[p + 2]! - places[q + 2]!,
        );
      });
    }
    return sums.map((sum) => sum / taken);
  });
}
