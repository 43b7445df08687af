import { pictureModule, room } from '../../clip/pictureModule';
import type { Picture } from '../../types';

/** A decoded picture as codecs leave it: a plane of brightness, and two of colour at half its size. */
export interface Planes {
  width: number;
  height: number;
  luma: Uint8Array;
  /** Bytes of a row. */
  lumaStride: number;
  blue: Uint8Array;
  red: Uint8Array;
  /** Bytes of a row of either, and from one of its values to the next. */
  chromaStride: number;
  chromaStep: number;
}

/** How brightness and colour are coded. */
export interface Coding {
  /** Parts of red and blue in the brightness (ITU-T H.273, matrix coefficients). */
  matrix: 'bt601' | 'bt709' | 'bt2020';
  /** Whether 0 to 255 are used, or 16 to 235 and 240. */
  full: boolean;
}

const PARTS = { bt601: [0.299, 0.114], bt709: [0.2126, 0.0722], bt2020: [0.2627, 0.0593] } as const;

/** The colour coding of a file that does not say it: of large pictures that of high definition. */
export function codingOf(
  {
    matrix,
    fullRange,
  }: { matrix?: string | null | undefined; fullRange?: boolean | null | undefined },
  height: number,
): Coding {
  const named = { bt709: 'bt709', bt470bg: 'bt601', smpte170m: 'bt601', 'bt2020-ncl': 'bt2020' };
  const known = named[matrix as keyof typeof named] as Coding['matrix'] | undefined;
  return { matrix: known ?? (height >= 720 ? 'bt709' : 'bt601'), full: fullRange === true };
}

/**
 * Factors of brightness and colours, in 65,536ths: black, brightness, red by V, green by U and by V, blue
 * by U.
 */
function factorsOf({ matrix, full }: Coding): [number, number, number, number, number, number] {
  const [kr, kb] = PARTS[matrix];
  const kg = 1 - kr - kb;
  const fixed = (v: number): number => Math.round(65_536 * v);
  const colour = full ? 1 : 255 / 224;
  return [
    full ? 0 : 16,
    fixed(full ? 1 : 255 / 219),
    fixed(2 * (1 - kr) * colour),
    fixed(((-2 * (1 - kb) * kb) / kg) * colour),
    fixed(((-2 * (1 - kr) * kr) / kg) * colour),
    fixed(2 * (1 - kb) * colour),
  ];
}

/**
 * A decoded picture as eight bits of red, green and blue, opaque, in whole numbers: the same on every
 * machine (ITU-T H.273, equations 38 to 43). Colour is that of the nearest value.
 */
export function pictureOfPlanes(planes: Planes, coding: Coding): Picture {
  const { width, height, luma, lumaStride, blue, red, chromaStride, chromaStep } = planes;
  const { mix, mixBytes, planesAt } = pictureModule();
  const [chromaRows, lumaBytes] = [(height + 1) >> 1, lumaStride * height];
  const chromaBytes = chromaStride * chromaRows;
  const memory = room(mixBytes(width, height, lumaBytes + 2 * chromaBytes));
  // The planes one behind the other; the last row of one may have no padding.
  const bytes = new Uint8Array(memory);
  const from = planesAt(width, height);
  const [atBlue, atRed] = [from + lumaBytes, from + lumaBytes + chromaBytes];
  bytes.set(luma.subarray(0, lumaBytes), from);
  bytes.set(blue.subarray(0, chromaBytes), atBlue);
  bytes.set(red.subarray(0, chromaBytes), atRed);
  const places = [from, lumaStride, atBlue, atRed, chromaStride, chromaStep] as const;
  mix(width, height, ...places, ...factorsOf(coding));
  const pixels = new Uint8ClampedArray(memory, 0, 4 * width * height).slice();
  return { type: 'picture', width, height, pixels };
}

/** A picture turned clockwise by quarters of a turn. */
export function turned(picture: Picture, degrees: number): Picture {
  const quarters = (((Math.round(degrees / 90) % 4) + 4) % 4) as 0 | 1 | 2 | 3;
  if (quarters === 0) return picture;
  const { width, height } = picture;
  const from = new Uint32Array(picture.pixels.buffer, picture.pixels.byteOffset, width * height);
  const to = new Uint32Array(width * height);
  const [w, h] = quarters === 2 ? [width, height] : [height, width];
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const [i, j] =
        quarters === 1
          ? [y, height - 1 - x]
          : quarters === 2
            ? [width - 1 - x, height - 1 - y]
            : [width - 1 - y, x];
      to[y * w + x] = from[j * width + i]!;
    }
  }
  return { type: 'picture', width: w, height: h, pixels: new Uint8Array(to.buffer) };
}
