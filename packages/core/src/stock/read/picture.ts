import { decode, type DecodedPng } from 'fast-png';
import type { Picture } from '../types';
import { StockError } from './error';

/** Most pixels: a quarter of a gigabyte when they are unpacked. */
const MOST = 2 ** 26;

/** Refuses a picture that would not fit into memory. */
export function checkPictureSize(name: string, width: number, height: number): void {
  if (width * height > MOST) {
    const most = MOST.toLocaleString('en-GB').replace(/,/g, ' ');
    throw new StockError(
      name,
      `it has ${width} × ${height} pixels, and ${most} in all is the most; make it smaller first`,
    );
  }
}

/** A PNG as eight bits of red, green, blue and alpha. */
export function pictureOf(name: string, bytes: Uint8Array): Picture {
  checkPngSize(name, bytes);
  let image: DecodedPng;
  try {
    image = decode(bytes);
  } catch (error) {
    throw new StockError(name, `the PNG cannot be read (${(error as Error).message})`);
  }
  const { width, height } = image;
  return { type: 'picture', width, height, pixels: bytesOfPng(image) };
}

/** Refuses a PNG that would not fit into memory: by the size in its head, before it is unpacked. */
export function checkPngSize(name: string, bytes: Uint8Array): void {
  if (bytes.length < 24 || bytes[1] !== 0x50 || bytes[2] !== 0x4e || bytes[3] !== 0x47) return;
  const head = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  checkPictureSize(name, head.getUint32(16), head.getUint32(20));
}

/** Eight bits of red, green, blue and alpha of what was unpacked. */
export function bytesOfPng({
  width,
  height,
  channels,
  depth,
  data,
  palette,
}: Pick<DecodedPng, 'width' | 'height' | 'channels' | 'depth' | 'data' | 'palette'>): Uint8Array {
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
  return pixels;
}
