import { decode, type DecodedPng } from 'fast-png';
import { Unzlib, zlibSync } from 'fflate';
import { reportProgress } from '../../progress';
import type { Picture } from '../types';
import { SIGNATURE, unsummed, type Chunk } from '../pngFile';
import { StockError } from './error';
import { checkPictureSize } from './pictureSize';

/** Portable Network Graphics (W3C, PNG, third edition, 2025); sections are of it. */

/**
 * The chunks of a PNG, in order (5.3).
 * @throws StockError where it is none, or is cut off
 */
export function chunksOf(name: string, bytes: Uint8Array): Chunk[] {
  if (SIGNATURE.some((b, i) => bytes[i] !== b)) {
    throw new StockError(name, 'this is no PNG, whatever its name says');
  }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const chunks: Chunk[] = [];
  for (let at = 8; at + 12 <= bytes.length;) {
    const end = at + 12 + view.getUint32(at);
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (end > bytes.length) break;
    chunks.push({ type, data: bytes.subarray(at + 8, end - 4) });
    if (type === 'IEND') return chunks;
    at = end;
  }
  throw new StockError(name, `it is cut off behind ${String(bytes.length)} bytes`);
}

/** The head of a PNG (11.2.1). */
export interface Head {
  width: number;
  height: number;
  /** Bits of a channel. */
  depth: number;
  /** Channels that are stored; a number of the palette is one. */
  channels: number;
  interlaced: boolean;
  /** As it stands in the file. */
  data: Uint8Array;
}

const CHANNELS: Readonly<Record<number, number>> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };

/** @throws StockError where it cannot be read, or the picture would not fit */
export function headOf(name: string, chunks: readonly Chunk[]): Head {
  const data = chunks[0]?.type === 'IHDR' && chunks[0].data.length === 13 ? chunks[0].data : null;
  const channels = CHANNELS[data?.[9] ?? -1];
  if (!data || channels === undefined) throw new StockError(name, 'its first chunk is no head');
  const view = new DataView(data.buffer, data.byteOffset, 13);
  const [width, height] = [view.getUint32(0), view.getUint32(4)];
  checkPictureSize(name, width, height);
  const head = { width, height, depth: data[8]!, channels, interlaced: data[12] === 1, data };
  if (head.interlaced && head.depth < 8) {
    const why = 'it is interlaced and has fewer than 8 bits a channel; save it without interlacing';
    throw new StockError(name, why);
  }
  return head;
}

/** First column and row, and the steps, of the passes of an interlaced picture (8.1). */
const PASSES = [
  [0, 0, 8, 8] as const,
  [4, 0, 8, 8] as const,
  [0, 4, 4, 8] as const,
  [2, 0, 4, 4] as const,
  [0, 2, 2, 4] as const,
  [1, 0, 2, 2] as const,
  [0, 1, 1, 2] as const,
];

/** Bytes of all lines, each with its filter. */
function bytesOfLines({ width, height, depth, channels, interlaced }: Head): number {
  const lines = (wide: number, high: number): number =>
    wide > 0 ? high * (1 + Math.ceil((wide * depth * channels) / 8)) : 0;
  if (!interlaced) return lines(width, height);
  return PASSES.reduce((sum, [x, y, across, down]) => {
    return sum + lines(Math.ceil((width - x) / across), Math.ceil((height - y) / down));
  }, 0);
}

/** Bytes that are unpacked at a time. */
const AT_A_TIME = 2 ** 16;

/** Unpacks so many bytes and no more, whatever is packed: little that is packed can be a lot. */
function unpacked(name: string, parts: readonly Uint8Array[], size: number): Uint8Array {
  const all = new Uint8Array(size);
  let at = 0;
  const take = (part: Uint8Array): void => {
    all.set(part.subarray(0, size - at), at);
    at += part.length;
    if (at > size + AT_A_TIME) throw new StockError(name, 'it unpacks to more than its pixels');
  };
  try {
    const stream = new Unzlib(take);
    for (const part of parts) {
      for (let k = 0; k < part.length; k += AT_A_TIME) {
        reportProgress(name, at / size);
        stream.push(part.subarray(k, k + AT_A_TIME));
      }
    }
    stream.push(new Uint8Array(0), true);
  } catch (error) {
    if (error instanceof StockError) throw error;
    throw new StockError(name, `its pixels cannot be unpacked (${(error as Error).message})`);
  }
  if (at < size) throw new StockError(name, 'its pixels end before its last line');
  return all;
}

/** Eight bits of red, green, blue and alpha of a picture of a PNG: its head, its palette, and its pixels as packed. */
export function pixelsOf(
  name: string,
  head: Head,
  chunks: readonly Chunk[],
  packed: readonly Uint8Array[],
): Uint8Array {
  const lines = zlibSync(unpacked(name, packed, bytesOfLines(head)), { level: 0 });
  const palette = chunks.filter(({ type }) => type === 'PLTE' || type === 'tRNS');
  let image: DecodedPng;
  try {
    image = decode(
      unsummed([
        { type: 'IHDR', data: head.data },
        // One value of a whole picture is looked at below.
        ...(head.data[9] === 3 ? palette : []),
        { type: 'IDAT', data: lines },
        { type: 'IEND', data: new Uint8Array(0) },
      ]),
    );
  } catch (error) {
    throw new StockError(name, `the PNG cannot be read (${(error as Error).message})`);
  }
  if (image.palette) return ofPalette(name, image, image.palette);
  return ofChannels(name, image, chunks.find(({ type }) => type === 'tRNS')?.data);
}

/** The numbers of a line: those of fewer than eight bits stand several in a byte, from the left (7.2). */
function reader({ width, channels, depth, data }: DecodedPng): (row: number, at: number) => number {
  if (depth >= 8) return (row, at) => data[row * width * channels + at]!;
  const [line, each, mask] = [Math.ceil((width * depth) / 8), 8 / depth, 2 ** depth - 1];
  return (row, at) =>
    (data[row * line + Math.floor(at / each)]! >> (8 - depth * (1 + (at % each)))) & mask;
}

function ofPalette(name: string, image: DecodedPng, palette: number[][]): Uint8Array {
  const { width, height } = image;
  const [pixels, read] = [new Uint8Array(4 * width * height), reader(image)];
  for (let row = 0, to = 0; row < height; row++) {
    for (let x = 0; x < width; x++, to += 4) {
      const colour = palette[read(row, x)];
      if (!colour) {
        const where = `the pixel ${String(x)}, ${String(row)}`;
        throw new StockError(name, `${where} has a colour that the palette has not`);
      }
      for (let k = 0; k < 4; k++) pixels[to + k] = colour[k] ?? 255;
    }
  }
  return pixels;
}

/** Greys and colours, with alpha or one value that is none (11.3.1). */
function ofChannels(name: string, image: DecodedPng, clearOf: Uint8Array | undefined): Uint8Array {
  const { width, height, channels, depth } = image;
  const [pixels, read] = [new Uint8Array(4 * width * height), reader(image)];
  const [full, grey] = [2 ** depth - 1, channels < 3];
  const colours = grey ? 1 : 3;
  const alpha = channels > colours;
  if (clearOf && clearOf.length !== 2 * colours)
    throw new StockError(name, 'it is broken where it says what is clear');
  for (let row = 0, to = 0; row < height; row++) {
    for (let x = 0; x < width; x++, to += 4) {
      let clear = clearOf !== undefined;
      for (let k = 0; k < colours; k++) {
        const value = read(row, x * channels + k);
        if (clear && value !== 256 * clearOf![2 * k]! + clearOf![2 * k + 1]!) clear = false;
        pixels[to + k] = Math.round((255 * value) / full);
      }
      if (grey) pixels[to + 1] = pixels[to + 2] = pixels[to]!;
      const cover = alpha ? (255 * read(row, x * channels + colours)) / full : 255;
      pixels[to + 3] = clear ? 0 : Math.round(cover);
    }
  }
  return pixels;
}

/** A PNG as eight bits of red, green, blue and alpha. */
export function pictureOf(name: string, bytes: Uint8Array): Picture {
  const chunks = chunksOf(name, bytes);
  const head = headOf(name, chunks);
  const packed = chunks.filter((c) => c.type === 'IDAT').map((c) => c.data);
  const { width, height } = head;
  return { type: 'picture', width, height, pixels: pixelsOf(name, head, chunks, packed) };
}
