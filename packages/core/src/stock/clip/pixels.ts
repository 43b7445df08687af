import { FINEST, LIGHT_OF_BYTE } from '../places/pictureParts';
import type { Picture } from '../types';
import { CODES_OF_LIGHT } from './codes';

/** Size of a moving picture as kernels sample it: larger ones at FINEST pixels along their longer side. */
export function sampledMoving({ width, height }: { width: number; height: number }): {
  width: number;
  height: number;
  /** Pixels of the picture along one of the sample. */
  every: number;
} {
  const every = Math.max(1, Math.ceil(Math.max(width, height) / FINEST));
  return { width: Math.ceil(width / every), height: Math.ceil(height / every), every };
}

/** The pixels of a picture at that size: a word each, red in the lowest byte, opacity in the highest. */
export function pixelWords(picture: Picture): Float32Array {
  const { width, height, every } = sampledMoving(picture);
  const { pixels } = every > 1 ? coarser(picture, width, height, every) : picture;
  const aligned = pixels.byteOffset % 4 === 0 ? pixels : pixels.slice();
  return new Float32Array(aligned.buffer, aligned.byteOffset, width * height);
}

/** Means of squares of pixels, in linear light. */
function coarser(picture: Picture, width: number, height: number, every: number): Picture {
  const pixels = new Uint8Array(4 * width * height);
  const sum = new Float64Array(4);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      sum.fill(0);
      let count = 0;
      for (let j = y * every; j < Math.min(picture.height, (y + 1) * every); j++) {
        for (let i = x * every; i < Math.min(picture.width, (x + 1) * every); i++, count++) {
          const from = 4 * (j * picture.width + i);
          for (let c = 0; c < 3; c++) sum[c]! += LIGHT_OF_BYTE[picture.pixels[from + c]!]!;
          sum[3]! += picture.pixels[from + 3]!;
        }
      }
      const at = 4 * (y * width + x);
      for (let c = 0; c < 3; c++) {
        pixels[at + c] = CODES_OF_LIGHT[Math.round((sum[c]! / count) * 4095)]!;
      }
      pixels[at + 3] = Math.round(sum[3]! / count);
    }
  }
  return { type: 'picture', width, height, pixels };
}
