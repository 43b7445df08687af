import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { PartReader } from '../../language/partReader';
import type { BlockTrack } from '../../language/track';
import { LIGHT_OF_BYTE } from '../../stock/places/pictureParts';
import { luminanceOf } from '../../feeds/luminance';
import type { Rgb } from '../../feeds/colour';
import { pictureModule, room } from '../../stock/clip/pictureModule';
import { thenDo } from '../../stock/clip/soon';
import type { MovingPicture, Picture } from '../../stock/types';
import type { Birthplace } from '../kinds';

/** Most places that a picture gives; of more, so many spread evenly over them. */
const MOST = 4096;
/** Larger pictures are looked at in so many places along their longer side. */
const FINEST = 512;
/** Numbers of a place, each in a list of its own behind the number of places. */
const PARTS = 5;

interface Choosing {
  by: 'brightness' | 'alpha';
  limit: number;
  density: 'even' | 'value';
}

/** Light by a pixel's bytes, then the parts that each colour has in its luminance (Rec. 709, of light). */
const TABLES = Float32Array.from([
  ...LIGHT_OF_BYTE,
  ...[0, 1, 2].flatMap((c) =>
    [...LIGHT_OF_BYTE].map((light) =>
      luminanceOf([0, 1, 2].map((k) => (k === c ? light : 0)) as Rgb),
    ),
  ),
]);

/** Pixels from one that is looked at to the next. */
export function pixelStep({ width, height }: { width: number; height: number }): number {
  return Math.max(1, Math.ceil(Math.max(width, height) / FINEST));
}

/** Places as often as they weigh: at even steps along the sum of all weights, so that rates are exact. */
function blockOf(picture: Picture, { by, limit, density }: Choosing): Float32Array {
  const { width, height, pixels } = picture;
  const every = pixelStep(picture);
  const { choose, chooseBytes, lightAt } = pictureModule();
  const memory = room(chooseBytes(width, height, every, MOST));
  new Uint8Array(memory).set(pixels);
  new Float32Array(memory, lightAt(width, height), TABLES.length).set(TABLES);
  const lit = by === 'brightness';
  const found = choose(width, height, every, lit, density === 'even', limit, MOST);
  return new Float32Array(memory, found, 1 + PARTS * MOST).slice();
}

/** The places of a moving picture, as a track. */
export function spotTrack(moving: MovingPicture, choosing: Choosing): BlockTrack {
  const { by, limit, density } = choosing;
  return {
    name: `spots.${by}.${String(limit)}.${density}.${moving.name}`,
    words: 1 + PARTS * MOST,
    blockAt: moving.stateAt,
    read(state) {
      return thenDo(moving.at(state), (picture) => blockOf(picture, choosing));
    },
  };
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
    .min(MOST - 1);
  const read = (part: number): Expr => dial.track(track, index.add(1 + part * MOST));
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
