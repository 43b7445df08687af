import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { PartReader } from '../../../language/partReader';
import { seenTrack, type BlockTrack } from '../../../language/track';
import { MOST_SPOTS, SPOT_PARTS } from '../../../stock/clip/spots';
import type { Choosing, MovingPicture } from '../../../stock/types';
import type { Birthplace } from '../../kinds';

/** The places of a moving picture, as a track. */
export function spotTrack(moving: MovingPicture, choosing: Choosing): BlockTrack {
  const { by, limit, density } = choosing;
  const name = `spots.${by}.${String(limit)}.${density}`;
  return seenTrack(moving, name, 1 + SPOT_PARTS * MOST_SPOTS, { find: 'spots', choosing });
}

/** A place of the picture as it is at the birth; none where nothing passes the limit. */
export function movingPlace(
  dial: PartReader,
  track: BlockTrack,
  { pixel, width, aspect }: { pixel: Expr; width: Expr; aspect: number },
): Birthplace {
  const g = dial.graph;
  const count = dial.track(track, g.int(0));
  const index = dial
    .random('place')
    .mul(count)
    .toInt()
    .max(0)
    .min(MOST_SPOTS - 1);
  const read = (part: number): Expr => dial.track(track, index.add(1 + part * MOST_SPOTS));
  const jitter = (axis: string): Expr => dial.random(`in.${axis}`).sub(0.5).mul(pixel);
  const zero = g.float(0);
  const [x, y] = [read(0).add(jitter('x')), read(1).add(jitter('y'))];
  const [across, up] = [x.mul(Math.max(1, 1 / aspect)), y.mul(Math.max(1, aspect))];
  return {
    position: new Vec3(x, y, zero).scale(width),
    surface: [across.add(0.5), g.float(0.5).sub(up)],
    normal: new Vec3(zero, zero, g.float(1)),
    colour: new Vec3(read(2), read(3), read(4)),
    there: count.gt(0),
  };
}
