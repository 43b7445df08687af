import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { PartReader } from './partReader';
import type { BlockTrack } from './track';
import { memo } from '../stock/memo';
import { chosenJoints, wholeBits } from '../stock/motion/chosen';
import { isThere, type Performing } from '../stock/motion/performing';

/**
 * Where a performer's joints are, as a track: x, y, z of each at the end of a frame's time, then of each at its
 * beginning, then the middle and the radius of a ball about all of them, then 1 where they are there. Over a leap, as
 * where a motion begins again, they stand where they have come to.
 */
export function jointTrack(performing: Performing, rate: number): BlockTrack {
  const { name, joints, at, leaps, live } = performing;
  const words = 6 * joints.length + BALL + 1;
  return {
    name: `joints.${name}`,
    words,
    // What is not known yet is not read ahead.
    blockAt: (frame) => live?.known(frame) ?? frame,
    read(frame) {
      const [from, to] = [frame / rate, (frame + 1) / rate];
      const block = new Float32Array(words);
      const now = at(to);
      block.set(now);
      block.set(leaps(from, to) ? now : at(from), now.length);
      block.set(ballOf(block.subarray(0, 2 * now.length)), 2 * now.length);
      block[words - 1] = isThere(performing, to) ? 1 : 0;
      return block;
    },
  };
}

/** Numbers of a ball: its middle and its radius. */
const BALL = 4;

/** A ball about some places. */
function ballOf(places: Float32Array): [number, number, number, number] {
  const middle = [0, 1, 2].map((axis) => {
    let [low, high] = [Infinity, -Infinity];
    for (let i = axis; i < places.length; i += 3) {
      low = Math.min(low, places[i]!);
      high = Math.max(high, places[i]!);
    }
    return (low + high) / 2;
  }) as [number, number, number];
  let radius = 0;
  for (let i = 0; i < places.length; i += 3) {
    const way = middle.map((v, axis) => places[i + axis]! - v);
    radius = Math.max(radius, Math.hypot(...way));
  }
  return [...middle, radius];
}

/** Reads the ball about all joints within the frame's time. */
export function jointBall(
  dial: PartReader,
  performing: Performing,
): { middle: Vec3; radius: Expr } {
  const track = jointTrack(performing, dial.rate);
  const first = 6 * performing.joints.length;
  const [x, y, z, radius] = [0, 1, 2, 3].map((k) => dial.track(track, dial.graph.int(first + k)));
  return { middle: new Vec3(x!, y!, z!), radius: radius! };
}

/** Whether a performer is there in the frame; undefined of one who always is. */
export function jointsThere(dial: PartReader, performing: Performing): Expr | undefined {
  if (!performing.live) return undefined;
  const track = jointTrack(performing, dial.rate);
  return dial.track(track, dial.graph.int(track.words - 1)).gt(0);
}

/** Reads where joints are at the end of the frame's time, or at its beginning. */
export function jointReader(
  dial: PartReader,
  performing: Performing,
): (joint: Expr, set: 'now' | 'before') => Vec3 {
  const track = jointTrack(performing, dial.rate);
  const { length } = performing.joints;
  return (joint, set) => {
    const first = joint.mul(3).add(set === 'before' ? 3 * length : 0);
    const part = (axis: number): Expr => dial.track(track, first.add(axis));
    return new Vec3(part(0), part(1), part(2));
  };
}

/** The way from a place to the nearest of the chosen joints, as they are in the middle of the frame; null where there is none. */
export function wayToJoints(
  dial: PartReader,
  performing: Performing,
  names: readonly string[],
  position: Vec3,
): Vec3 | null {
  const numbers = memo(performing, `joints ${names.join('\n')}`, () =>
    wholeBits(chosenJoints(performing, names)),
  );
  if (numbers.length === 0) return null;
  const g = dial.graph;
  const read = jointReader(dial, performing);
  const far = g.float(1e30);
  const [x, y, z] = g.loop(g.int(numbers.length), [far, far, far], (turn, best) => {
    const joint = dial.block(numbers, turn, 'i32');
    const there = read(joint, 'now').add(read(joint, 'before')).scale(0.5).sub(position);
    const known = new Vec3(best[0]!, best[1]!, best[2]!);
    const nearer = there.dot(there).lt(known.dot(known));
    return there.parts.map((part, i) => nearer.select(part, best[i]!));
  });
  const way = new Vec3(x!, y!, z!);
  const there = jointsThere(dial, performing);
  const none = g.float(0);
  return there ? Vec3.select(there, way, new Vec3(none, none, none)) : way;
}
