import { luminanceOf } from '../../feeds/luminance';
import { LIGHT } from '../../feeds/colour';
import { reportProgress } from '../../progress';
import { memo } from '../memo';
import { aliasOf, type Alias } from './alias';
import type { Picture } from '../types';

/** Pixels of a picture that pass a limit, with their places and colours. */
export interface Spots {
  count: number;
  /** Places of the pixels' middles: x to the right, y up, the longer side one metre, about 0. */
  x: Float32Array;
  y: Float32Array;
  /** Linear light. */
  colour: [Float32Array, Float32Array, Float32Array];
  /** Weight of each pixel: its luminance times alpha, or its alpha. */
  weight: Float32Array;
  /** Side of a pixel in metres. */
  pixel: number;
}

/** Larger pictures are read at this many pixels along their longer side. */
export const FINEST = 1024;

/** Linear light of a byte of a picture, for kernels. */
export const LIGHT_OF_BYTE = Float32Array.from(LIGHT);

/** The picture as linear light and alpha at no more than FINEST pixels: means of what was there. */
export function lightOf(picture: Picture): { width: number; height: number; light: Float32Array } {
  return memo(picture, 'light', () => {
    const k = Math.max(1, Math.ceil(Math.max(picture.width, picture.height) / FINEST));
    const [width, height] = [Math.ceil(picture.width / k), Math.ceil(picture.height / k)];
    const light = new Float32Array(4 * width * height);
    for (let y = 0; y < height; y++) {
      reportProgress('the light of a picture', y / height);
      for (let x = 0; x < width; x++) {
        const at = 4 * (y * width + x);
        let n = 0;
        for (let j = y * k; j < Math.min(picture.height, (y + 1) * k); j++) {
          for (let i = x * k; i < Math.min(picture.width, (x + 1) * k); i++) {
            const from = 4 * (j * picture.width + i);
            for (let c = 0; c < 3; c++) light[at + c]! += LIGHT_OF_BYTE[picture.pixels[from + c]!]!;
            light[at + 3]! += picture.pixels[from + 3]! / 255;
            n += 1;
          }
        }
        for (let c = 0; c < 4; c++) light[at + c]! /= n;
      }
    }
    return { width, height, light };
  });
}

/** @param limit 0 to 1, of relative luminance (Rec. 709, of light) times alpha, or of alpha */
export function spotsOf(picture: Picture, by: 'brightness' | 'alpha', limit: number): Spots {
  return memo(picture, `spots.${by}.${String(limit)}`, () => {
    const { width, height, light } = lightOf(picture);
    const pixel = 1 / Math.max(width, height);
    const found: number[] = [];
    const weight: number[] = [];
    for (let i = 0; i < width * height; i++) {
      const [r, g, b, a] = [0, 1, 2, 3].map((c) => light[4 * i + c]!) as [
        number,
        number,
        number,
        number,
      ];
      const value = by === 'alpha' ? a : luminanceOf([r, g, b]) * a;
      if (value < limit || a === 0) continue;
      found.push(i);
      weight.push(value);
    }
    const pick = (get: (i: number) => number): Float32Array => Float32Array.from(found, get);
    return {
      count: found.length,
      x: pick((i) => ((i % width) + 0.5 - width / 2) * pixel),
      y: pick((i) => (height / 2 - Math.floor(i / width) - 0.5) * pixel),
      colour: [0, 1, 2].map((c) => pick((i) => light[4 * i + c]!)) as Spots['colour'],
      weight: Float32Array.from(weight),
      pixel,
    };
  });
}

/** To pick pixels by what they have. */
export function spotsByWeight(spots: Spots): Alias {
  return memo(spots, 'by weight', () => aliasOf(spots.weight));
}
