import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { PartReader } from '../../language/partReader';
import type { BlockTrack } from '../../language/track';
import { memo, serialOf } from '../../stock/memo';
import { spotsOf, type Spots } from '../../stock/places/pictureParts';
import type { MovingPicture, Picture } from '../../stock/types';
import type { Birthplace } from '../kinds';

/** Most places that a picture gives; of more, so many spread evenly over them. */
const MOST = 4096;
/** Numbers of a place, each in a list of its own behind the number of places. */
const PARTS = 5;

function blockOf({ count, x, y, colour }: Spots): Float32Array {
  const block = new Float32Array(1 + PARTS * MOST);
  const kept = Math.min(count, MOST);
  block[0] = kept;
  [x, y, ...colour].forEach((values, part) => {
    for (let i = 0; i < kept; i++) {
      block[1 + part * MOST + i] = values[Math.floor((i * count) / kept)]!;
    }
  });
  return block;
}

/** The places of a picture that changes with time, as a track. */
export function spotTrack(
  picture: Picture,
  moving: MovingPicture,
  by: 'brightness' | 'alpha',
  limit: number,
): BlockTrack {
  const { count, every, at } = moving;
  return memo(picture, `track.${by}.${String(limit)}`, () => ({
    name: `spots.${String(serialOf(picture))}.${by}.${String(limit)}`,
    words: 1 + PARTS * MOST,
    blockAt: (frame) => Math.floor(frame / every) % count,
    read: (block) => blockOf(spotsOf(at(block), by, limit)),
  }));
}

/** A place of the picture as it is at the birth; none where nothing passes the limit. */
export function movingPlace(
  dial: PartReader,
  track: BlockTrack,
  { pixel, width }: { pixel: Expr; width: Expr },
): Birthplace {
  const g = dial.graph;
  const count = dial.track(track, g.int(0));
  const index = dial
    .random('place')
    .mul(count)
    .toInt()
    .max(0)
    .min(MOST - 1);
  const read = (part: number): Expr => dial.track(track, index.add(1 + part * MOST));
  const jitter = (axis: string): Expr => dial.random(`in.${axis}`).sub(0.5).mul(pixel);
  const zero = g.float(0);
  return {
    position: new Vec3(read(0).add(jitter('x')), read(1).add(jitter('y')), zero).scale(width),
    normal: new Vec3(zero, zero, g.float(1)),
    colour: new Vec3(read(2), read(3), read(4)),
    there: count.gt(0),
  };
}
