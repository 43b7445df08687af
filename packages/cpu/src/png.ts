import { encode } from 'fast-png';
import type { Frame } from './engine';

/** A frame as a PNG file of 8 bits and three channels. */
export function encodePng({ width, height, pixels }: Frame): Uint8Array<ArrayBuffer> {
  const data = new Uint8Array(width * height * 3);
  for (let i = 0, o = 0; o < data.length; i += 4, o += 3) {
    data[o] = pixels[i]!;
    data[o + 1] = pixels[i + 1]!;
    data[o + 2] = pixels[i + 2]!;
  }
  return encode(
    { width, height, data, channels: 3, depth: 8 },
    { zlib: { level: 4 } },
  ) as Uint8Array<ArrayBuffer>;
}
