import { decode } from 'fast-png';
import type { Picture } from '../stock';
import { StockError } from './error';

/** A PNG as eight bits of red, green, blue and alpha. */
export function pictureOf(name: string, bytes: Uint8Array): Picture {
  let image: ReturnType<typeof decode>;
  try {
    image = decode(bytes);
  } catch (error) {
    throw new StockError(name, `the PNG cannot be read (${(error as Error).message})`);
  }
  const { width, height, channels, depth, data, palette } = image;
  const deep = depth === 16 ? 257 : 1;
  const pixels = new Uint8Array(4 * width * height);
  for (let i = 0; i < width * height; i++) {
    const at = (c: number): number => Math.round(data[i * channels + c]! / deep);
    if (palette) {
      const [r, g, b, a = 255] = palette[data[i]!] as number[];
      pixels.set([r!, g!, b!, a], 4 * i);
    } else if (channels < 3) pixels.set([at(0), at(0), at(0), channels === 2 ? at(1) : 255], 4 * i);
    else pixels.set([at(0), at(1), at(2), channels === 4 ? at(3) : 255], 4 * i);
  }
  return { type: 'picture', width, height, pixels };
}
