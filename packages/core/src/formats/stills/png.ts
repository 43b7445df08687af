import { reportProgress } from '../../progress';
import { AROUND, pngOf, SIGNATURE, sumChunk, type Chunk } from '../../stock/pngFile';
import { packed } from '../packing';
import { srgb } from './srgb';
import type { Drawn, Frame, Light, Still } from './still';

/** Frames as PNG files in sRGB (W3C, "Portable Network Graphics", third edition). */

/** Colours of three channels, and of four with what they cover (11.2.1). */
const COLOUR_TYPES = { 3: 2, 4: 6 } as const;
/** Each byte as what it is more than that of the pixel before (9.2). */
const SUB = 1;
/** Bytes a second that are packed on a slow machine at least; nothing is said on the way. */
const SPEED = 10e6;

/** Rows of bytes as differences, each with the number of the filter before it. */
function differences(data: Uint8Array, row: number, pixel: number): Uint8Array {
  const rows = data.length / row;
  const out = new Uint8Array(data.length + rows);
  let [from, to] = [0, 0];
  for (let y = 0; y < rows; y++) {
    out[to++] = SUB;
    const end = from + row;
    for (let k = 0; k < pixel; k++) out[to++] = data[from++]!;
    while (from < end) {
      out[to++] = data[from]! - data[from - pixel]!;
      from += 1;
    }
  }
  return out;
}

/** Bytes of samples, the high one first. */
function bytesOf(data: Uint8Array | Uint16Array): Uint8Array {
  if (data instanceof Uint8Array) return data;
  const out = new Uint8Array(2 * data.length);
  for (let i = 0, o = 0; i < data.length; i++) {
    const value = data[i]!;
    out[o++] = value >> 8;
    out[o++] = value & 255;
  }
  return out;
}

/** A text of the head (11.3.3.2); what notes say is said of the software that wrote it. */
function textChunk(text: string): Chunk {
  return { type: 'tEXt', data: new TextEncoder().encode(`Software\0${text}`) };
}

async function srgbPng(
  width: number,
  height: number,
  channels: 3 | 4,
  data: Uint8Array | Uint16Array,
  notes: Drawn['notes'] = {},
): Promise<Uint8Array<ArrayBuffer>> {
  reportProgress('', 0, data.byteLength / SPEED);
  const bytes = data.BYTES_PER_ELEMENT;
  const head = new Uint8Array(13);
  new DataView(head.buffer).setUint32(0, width);
  new DataView(head.buffer).setUint32(4, height);
  head.set([8 * bytes, COLOUR_TYPES[channels]], 8);
  const pixel = channels * bytes;
  const body = await packed(differences(bytesOf(data), width * pixel, pixel));
  return pngOf([
    { type: 'IHDR', data: head },
    // Of the perceptual kind (11.3.2.5).
    { type: 'sRGB', data: new Uint8Array(1) },
    ...Object.values(notes).map(textChunk),
    { type: 'IDAT', data: body },
    { type: 'IEND', data: new Uint8Array(0) },
  ]);
}

function coloursOf(pixels: Uint8ClampedArray): Uint8Array {
  const data = new Uint8Array((pixels.length / 4) * 3);
  for (let i = 0, o = 0; o < data.length; i += 4) {
    data[o++] = pixels[i]!;
    data[o++] = pixels[i + 1]!;
    data[o++] = pixels[i + 2]!;
  }
  return data;
}

/** A frame as a PNG file of 8 bits and three channels, in sRGB. */
export function encodePng(
  { width, height, pixels }: Frame,
  notes?: Drawn['notes'],
): Promise<Uint8Array<ArrayBuffer>> {
  return srgbPng(width, height, 3, coloursOf(pixels), notes);
}

/**
 * A frame's light in sRGB, pixel by pixel: in 16 bits it is fine enough to need no dither. Where there is no backdrop
 * it has a fourth channel, and colours that are not multiplied by it (4.4.1).
 */
export function samplesOf(
  { planes, cover }: Light,
  depth: 8 | 16,
): { channels: 3 | 4; data: Uint8Array | Uint16Array } {
  const [red, green, blue] = planes;
  const channels = cover ? 4 : 3;
  const most = 2 ** depth - 1;
  const data = new (depth === 8 ? Uint8Array : Uint16Array)(red.length * channels);
  for (let i = 0, o = 0; i < red.length; i++) {
    const [r, g, b] = [red[i]!, green[i]!, blue[i]!];
    // Light that covers nothing could not be seen at all: it covers as much as it is bright.
    const alpha = cover ? Math.min(1, Math.max(cover[i]!, r, g, b)) : 1;
    const share = alpha > 0 ? 1 / alpha : 0;
    data[o++] = most * srgb(r * share) + 0.5;
    data[o++] = most * srgb(g * share) + 0.5;
    data[o++] = most * srgb(b * share) + 0.5;
    if (cover) data[o++] = most * alpha + 0.5;
  }
  return { channels, data };
}

/** A frame's light as a PNG file in sRGB. */
export function encodeLight(
  light: Light,
  depth: 8 | 16,
  notes?: Drawn['notes'],
): Promise<Uint8Array<ArrayBuffer>> {
  const { channels, data } = samplesOf(light, depth);
  return srgbPng(light.width, light.height, channels, data, notes);
}

/** Sums the texts again that stand between the head, two chunks of 13 bytes and 1, and the pixels. */
function amend(file: Uint8Array): void {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength);
  let at = SIGNATURE.length + AROUND + 13 + AROUND + 1;
  while (view.getUint32(at + 4) !== TEXT_ENDS) {
    sumChunk(file, at);
    at += AROUND + view.getUint32(at);
  }
}

/** 'IDAT' */
const TEXT_ENDS = 0x49444154;

export const png: Still = {
  title: 'PNG, 8 bits',
  ending: 'png',
  fine: false,
  layers: false,
  encode: ({ frame, light, alpha, notes }) =>
    alpha ? encodeLight(light(), 8, notes) : encodePng(frame, notes),
  amend,
};

export const png16: Still = {
  title: 'PNG, 16 bits',
  ending: 'png',
  fine: true,
  layers: false,
  encode: ({ light, notes }) => encodeLight(light(), 16, notes),
  amend,
};
