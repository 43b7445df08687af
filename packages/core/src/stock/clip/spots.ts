import { luminanceOf } from '../../feeds/luminance';
import type { Rgb } from '../../feeds/colour';
import { LIGHT_OF_BYTE } from '../places/pictureParts';
import type { Choosing, Picture } from '../types';
import { pictureModule, room } from './pictureModule';

/** Most places that a picture gives; of more, so many spread evenly over them. */
export const MOST_SPOTS = 4096;
/** Larger pictures are looked at in so many places along their longer side. */
const FINEST = 512;
/** Numbers of a place, each in a list of its own behind the number of places. */
export const SPOT_PARTS = 5;

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

/**
 * Places as often as they weigh: at even steps along the sum of all weights, so that rates are exact. How many, then
 * lists of x, y and linear red, green and blue of each.
 */
export function spotsSeen(picture: Picture, { by, limit, density }: Choosing): Float32Array {
  const { width, height, pixels } = picture;
  const every = pixelStep(picture);
  const { choose, chooseBytes, lightAt } = pictureModule();
  const memory = room(chooseBytes(width, height, every, MOST_SPOTS));
  new Uint8Array(memory).set(pixels);
  new Float32Array(memory, lightAt(width, height), TABLES.length).set(TABLES);
  const lit = by === 'brightness';
  const found = choose(width, height, every, lit, density === 'even', limit, MOST_SPOTS);
  return new Float32Array(memory, found, 1 + SPOT_PARTS * MOST_SPOTS).slice();
}
