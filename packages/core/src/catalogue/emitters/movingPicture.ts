import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { PartReader } from '../../language/partReader';
import type { BlockTrack } from '../../language/track';
import { LIGHT_OF_BYTE } from '../../stock/places/pictureParts';
import { luminanceOf } from '../../feeds/luminance';
import type { Rgb } from '../../feeds/colour';
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

/** Parts of a pixel's luminance by its bytes (Rec. 709, of light). */
const [RED, GREEN, BLUE] = [0, 1, 2].map((c) =>
  LIGHT_OF_BYTE.map((light) => luminanceOf([0, 1, 2].map((k) => (k === c ? light : 0)) as Rgb)),
) as [Float32Array, Float32Array, Float32Array];

/** Pixels from one that is looked at to the next. */
export function pixelStep({ width, height }: { width: number; height: number }): number {
  return Math.max(1, Math.ceil(Math.max(width, height) / FINEST));
}

/** What each pixel that is looked at has, where that passes the limit, else 0; with how many pass, and their sum. */
function weightsOf(
  { width, height, pixels }: Picture,
  every: number,
  { by, limit, density }: Choosing,
): { weights: Float32Array; passing: number; total: number } {
  const columns = Math.ceil(width / every);
  const weights = new Float32Array(columns * Math.ceil(height / every));
  const [lit, even] = [by === 'brightness', density === 'even'];
  let [passing, total] = [0, 0];
  for (let k = 0; k < weights.length; k++) {
    const row = Math.floor(k / columns);
    const i = 4 * every * (row * width + (k - row * columns));
    const alpha = pixels[i + 3]!;
    if (alpha === 0) continue;
    let value = alpha / 255;
    if (lit) value *= RED[pixels[i]!]! + GREEN[pixels[i + 1]!]! + BLUE[pixels[i + 2]!]!;
    if (value < limit) continue;
    const weight = even ? 1 : value;
    weights[k] = weight;
    passing += 1;
    total += weight;
  }
  return { weights, passing, total };
}

/** Places as often as they weigh: at even steps along the sum of all weights, so that rates are exact. */
function blockOf(picture: Picture, choosing: Choosing): Float32Array {
  const { width, height, pixels } = picture;
  const every = pixelStep(picture);
  const columns = Math.ceil(width / every);
  const { weights, passing, total } = weightsOf(picture, every, choosing);
  const block = new Float32Array(1 + PARTS * MOST);
  const count = choosing.density === 'even' ? Math.min(passing, MOST) : total > 0 ? MOST : 0;
  block[0] = count;
  const side = 1 / Math.max(width, height);
  const step = total / count;
  let [sum, chosen, next] = [0, 0, step / 2];
  for (let k = 0; k < weights.length && chosen < count; k++) {
    sum += weights[k]!;
    for (; chosen < count && sum > next; chosen++, next = (chosen + 0.5) * step) {
      const [x, y] = [every * (k % columns), every * Math.floor(k / columns)];
      block[1 + chosen] = (x + every / 2 - width / 2) * side;
      block[1 + MOST + chosen] = (height / 2 - y - every / 2) * side;
      for (let c = 0; c < 3; c++) {
        const light = LIGHT_OF_BYTE[pixels[4 * (y * width + x) + c]!]!;
        block[1 + (2 + c) * MOST + chosen] = light;
      }
    }
  }
  return block;
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
