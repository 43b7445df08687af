import { BVHLoader } from 'three/examples/jsm/loaders/BVHLoader.js';
import type { Joint, Motion } from '../../types';
import { StockError } from '../error';
import { checkBvh } from './checkBvh';
import { motionOf } from './motionOf';

/** Frames that are read in one go: the reader takes lines off the front of a list, which is slow for a long one. */
const AT_ONCE = 1000;

/**
 * A BVH file (Biovision; M. Meredith and S. Maddock, "Motion Capture File Formats Explained", 2001): one performer,
 * in the unit of the file, y up.
 *
 * @throws StockError that says what is wrong, and in which line
 */
export function motionOfBvh(name: string, text: string): Motion {
  const { hierarchy, frames, frameTime } = checkBvh(name, text);
  let joints: Joint[] | null = null;
  const places: Float32Array[] = [];
  for (let from = 0; from < frames.length; from += AT_ONCE) {
    const part = frames.slice(from, from + AT_ONCE);
    const motion = `MOTION\nFrames: ${String(part.length)}\nFrame Time: ${String(frameTime)}\n`;
    try {
      const { skeleton, clip } = new BVHLoader().parse(hierarchy + motion + part.join('\n'));
      joints ??= jointsOf(skeleton.bones);
      places.push(placesOf(skeleton.bones, clip.tracks, part.length));
    } catch (error) {
      // The reader counts on each joint having all its lines, in this order.
      const wanted = "a joint has a name, '{', OFFSET, CHANNELS, its own joints or an end, and '}'";
      const why = error instanceof Error ? error.message : String(error);
      throw new StockError(name, `its hierarchy is broken; ${wanted} (${why})`);
    }
  }
  const times = Float64Array.from(frames, (_, i) => i * frameTime);
  return motionOf(name, times, [{ name: 'performer', joints: joints!, places: joined(places) }]);
}

type Read = ReturnType<BVHLoader['parse']>;
type Bones = Read['skeleton']['bones'];

/** Ends of chains have no names in the file. */
const END = 'ENDSITE';

function jointsOf(bones: Bones): Joint[] {
  const seen = new Map<string, number>();
  return bones.map((bone) => {
    const parent = bones.indexOf(bone.parent as Bones[number]);
    const called = bone.name === END ? `${bones[parent]!.name} end` : bone.name;
    const count = (seen.get(called) ?? 0) + 1;
    seen.set(called, count);
    return { name: count > 1 ? `${called} ${String(count)}` : called, parent };
  });
}

/** Where all joints are in each frame. */
function placesOf(bones: Bones, tracks: Read['clip']['tracks'], count: number): Float32Array {
  // A place and a turn for each bone that is no end, in their order.
  const moved = bones.filter((b) => b.name !== END);
  const places = new Float32Array(3 * bones.length * count);
  for (let k = 0; k < count; k++) {
    moved.forEach((bone, i) => {
      bone.position.fromArray(tracks[2 * i]!.values, 3 * k);
      bone.quaternion.fromArray(tracks[2 * i + 1]!.values, 4 * k);
    });
    bones[0]!.updateMatrixWorld(true);
    bones.forEach((bone, i) => {
      places.set(bone.matrixWorld.elements.slice(12, 15), 3 * (k * bones.length + i));
    });
  }
  return places;
}

function joined(parts: readonly Float32Array[]): Float32Array {
  const all = new Float32Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}
