import { luminanceOf } from '../../feeds/luminance';
import { lightOf } from './pictureParts';
import { memo } from '../memo';
import type { Picture } from '../types';

/** Directions read from a picture, to the right and up; the steepest have length 1. */
export interface Slopes {
  width: number;
  height: number;
  x: Float32Array;
  y: Float32Array;
}

/** @param blur part of the longer side over which the picture is smoothed */
export function slopesOf(picture: Picture, by: 'light' | 'colours', blur: number): Slopes {
  return memo(picture, `slopes.${by}.${String(blur)}`, () => {
    const { width, height, light } = lightOf(picture);
    const plane = (get: (i: number) => number): Float32Array => {
      const values = Float32Array.from({ length: width * height }, (_, i) => get(4 * i));
      return smooth(values, width, height, Math.round(blur * Math.max(width, height)));
    };
    if (by === 'colours') {
      const signed = (c: number) => plane((i) => 2 * Math.sqrt(light[i + c]!) - 0.9252);
      return { width, height, x: signed(0), y: signed(1) };
    }
    const grey = plane((i) => Math.cbrt(luminanceOf([light[i]!, light[i + 1]!, light[i + 2]!])));
    const at = (x: number, y: number): number =>
      grey[Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))]!;
    const [x, y] = [new Float32Array(grey.length), new Float32Array(grey.length)];
    let steepest = 1e-9;
    for (let j = 0; j < height; j++) {
      for (let i = 0; i < width; i++) {
        const k = j * width + i;
        x[k] = at(i + 1, j) - at(i - 1, j);
        y[k] = at(i, j - 1) - at(i, j + 1);
        steepest = Math.max(steepest, Math.hypot(x[k], y[k]));
      }
    }
    const scale = (v: number): number => v / steepest;
    return { width, height, x: x.map(scale), y: y.map(scale) };
  });
}

/** Three box blurs: near to a Gaussian (W. M. Wells, IEEE PAMI 8(2), 1986). */
function smooth(values: Float32Array, width: number, height: number, radius: number): Float32Array {
  if (radius < 1) return values;
  let from = values;
  let to: Float32Array = new Float32Array(values.length);
  const run = (start: number, count: number, step: number): void => {
    const at = (i: number): number => from[start + step * Math.min(count - 1, Math.max(0, i))]!;
    let sum = 0;
    for (let i = -radius; i <= radius; i++) sum += at(i);
    for (let i = 0; i < count; i++) {
      to[start + step * i] = sum / (2 * radius + 1);
      sum += at(i + radius + 1) - at(i - radius);
    }
  };
  for (let pass = 0; pass < 3; pass++) {
    for (let j = 0; j < height; j++) run(j * width, width, 1);
    [from, to] = [to, from];
    for (let i = 0; i < width; i++) run(i, height, width);
    [from, to] = [to, from];
  }
  return from;
}
