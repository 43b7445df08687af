import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { PartReader } from '../../language/partReader';
import type { BlockTrack } from '../../language/track';
import { LIGHT_OF_BYTE } from '../../language/moving';
import { luminanceOf } from '../../feeds/luminance';
import type { Rgb } from '../../feeds/colour';
import { thenDo } from '../../stock/clip/soon';
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

/** Parts of a pixel's luminance by its bytes (Rec. 709, of light). */
const [RED, GREEN, BLUE] = [0, 1, 2].map((c) =>
  LIGHT_OF_BYTE.map((light) => luminanceOf([0, 1, 2].map((k) => (k === c ? light : 0)) as Rgb)),
) as [Float32Array, Float32Array, Float32Array];

/** What each pixel of a picture has, where that passes the limit; else 0. */
function weightsOf({ pixels }: Picture, { by, limit, density }: Choosing): Float32Array {
  const weights = new Float32Array(pixels.length / 4);
  for (let i = 0, k = 0; k < weights.length; i += 4, k++) {
    const alpha = pixels[i + 3]!;
    if (alpha === 0) continue;
    const light = RED[pixels[i]!]! + GREEN[pixels[i + 1]!]! + BLUE[pixels[i + 2]!]!;
    const value = (by === 'alpha' ? 1 : light) * (alpha / 255);
    if (value >= limit) weights[k] = density === 'even' ? 1 : value;
  }
  return weights;
}

/** Places as often as they weigh: at even steps along the sum of all weights, so that rates are exact. */
function blockOf(picture: Picture, choosing: Choosing): Float32Array {
  const { width, height, pixels } = picture;
  const weights = weightsOf(picture, choosing);
  const block = new Float32Array(1 + PARTS * MOST);
  let total = 0;
  let passing = 0;
  for (const weight of weights) {
    total += weight;
    if (weight > 0) passing += 1;
  }
  const count = choosing.density === 'even' ? Math.min(passing, MOST) : total > 0 ? MOST : 0;
  block[0] = count;
  const side = 1 / Math.max(width, height);
  let [sum, chosen] = [0, 0];
  for (let k = 0; k < weights.length && chosen < count; k++) {
    sum += weights[k]!;
    for (; chosen < count && sum > ((chosen + 0.5) / count) * total; chosen++) {
      const [x, y] = [k % width, Math.floor(k / width)];
      block[1 + chosen] = (x + 0.5 - width / 2) * side;
      block[1 + MOST + chosen] = (height / 2 - y - 0.5) * side;
      for (let c = 0; c < 3; c++) {
        block[1 + (2 + c) * MOST + chosen] = LIGHT_OF_BYTE[pixels[4 * k + c]!]!;
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
