import type { BlockTrack } from '../../language/track';
import type { Performing } from '../../stock/motion/performing';

/**
 * Where a performer's joints are, as a track: x, y, z of each at the end of a frame's time, then of each at its
 * beginning. Over a leap, as where a motion begins again, they stand where they have come to.
 */
export function jointTrack(performing: Performing, rate: number): BlockTrack {
  const { name, joints, at, leaps } = performing;
  const words = 6 * joints.length;
  return {
    ...{ name: `joints.${name}`, words },
    blockAt: (frame) => frame,
    read(frame) {
      const [from, to] = [frame / rate, (frame + 1) / rate];
      const block = new Float32Array(words);
      const now = at(to);
      block.set(now);
      block.set(leaps(from, to) ? now : at(from), now.length);
      return block;
    },
  };
}
