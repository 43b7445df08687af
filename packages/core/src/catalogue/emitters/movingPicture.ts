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

interface Choosing {
  by: 'brightness' | 'alpha';
  limit: number;
  density: 'even' | 'value';
}

function blockOf(spots: Spots, density: Choosing['density']): Float32Array {
  const { count, x, y, colour } = spots;
  const block = new Float32Array(1 + PARTS * MOST);
  const chosen = density === 'even' ? spread(count) : byWeight(spots);
  block[0] = chosen.length;
  [x, y, ...colour].forEach((values, part) => {
    chosen.forEach((spot, i) => (block[1 + part * MOST + i] = values[spot]!));
  });
  return block;
}

function spread(count: number): number[] {
  const kept = Math.min(count, MOST);
  return Array.from({ length: kept }, (_, i) => Math.floor((i * count) / kept));
}

/** Places as often as they weigh: at even steps along the sum of all weights. */
function byWeight({ count, weight }: Spots): number[] {
  const total = weight.reduce((a, b) => a + b, 0);
  if (count === 0 || total <= 0) return [];
  let [spot, sum] = [0, weight[0]!];
  return Array.from({ length: MOST }, (_, i) => {
    const at = ((i + 0.5) / MOST) * total;
    while (sum < at && spot < count - 1) sum += weight[++spot]!;
    return spot;
  });
}

/** The places of a picture that changes with time, as a track. */
export function spotTrack(
  picture: Picture,
  moving: MovingPicture,
  { by, limit, density }: Choosing,
): BlockTrack {
  const { count, every, at } = moving;
  const key = `${by}.${String(limit)}.${density}`;
  return memo(picture, `track.${key}`, () => ({
    name: `spots.${String(serialOf(picture))}.${key}`,
    words: 1 + PARTS * MOST,
    blockAt: (frame) => Math.floor(frame / every) % count,
    read: (block) => blockOf(spotsOf(at(block), by, limit), density),
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
