import { reportProgress } from '../progress';
import { putHalves } from './half';
import { packed } from './packing';

/**
 * OpenEXR files (Academy Software Foundation, "OpenEXR File Layout", version 2): one part, lines from the top, packed by
 * zlib in blocks of 16 lines.
 */

/** A channel of a picture, with a number for each pixel, rows from the top. */
export interface ExrChannel {
  /** `R`, `G`, `B`, `A`, `Z`, or the name of a layer, a dot, and one of them. */
  name: string;
  values: Float32Array;
  /** Half precision is enough for light; depth and ids want single precision. */
  as: 'half' | 'float';
}

export interface ExrPicture {
  width: number;
  height: number;
  channels: readonly ExrChannel[];
  /** Pictures a second, as a fraction. */
  rate?: readonly [frames: number, seconds: number];
  /** Texts that stand in its head, by the name of the attribute. */
  notes?: Readonly<Record<string, string>>;
}

const MAGIC = 20000630;
const VERSION = 2;
/** Names of more than 31 letters (4.1). */
const LONG_NAMES = 0x400;
const LINES = 16;
const ZIP = 3;
const TYPES = { half: 1, float: 2 } as const;
const SIZES = { half: 2, float: 4 } as const;

/** x and y of red, green, blue and white of BT.709, which sRGB has too (ITU-R BT.709-6, 1.3 and 1.4). */
const PRIMARIES = [0.64, 0.33, 0.3, 0.6, 0.15, 0.06, 0.3127, 0.329];

/** Bytes that are written one after the other. */
class Bytes {
  private readonly parts: Uint8Array[] = [];
  length = 0;

  add(part: Uint8Array): this {
    this.parts.push(part);
    this.length += part.length;
    return this;
  }

  text(text: string): this {
    return this.add(new TextEncoder().encode(`${text}\0`));
  }

  ints(...values: number[]): this {
    return this.add(new Uint8Array(Int32Array.from(values).buffer));
  }

  floats(...values: number[]): this {
    return this.add(new Uint8Array(Float32Array.from(values).buffer));
  }

  all(): Uint8Array<ArrayBuffer> {
    const all = new Uint8Array(this.length);
    let at = 0;
    for (const part of this.parts) {
      all.set(part, at);
      at += part.length;
    }
    return all;
  }
}

function attribute(to: Bytes, name: string, type: string, value: Bytes): void {
  to.text(name).text(type).ints(value.length).add(value.all());
}

function channelList(channels: readonly ExrChannel[]): Bytes {
  const list = new Bytes();
  // Behind the type: whether it is perceived evenly (as luminance is), three bytes, and samples of one pixel.
  for (const { name, as } of channels) list.text(name).ints(TYPES[as], 0, 1, 1);
  return list.add(new Uint8Array(1));
}

function headOf(
  { width, height, rate, notes = {} }: ExrPicture,
  channels: readonly ExrChannel[],
): Bytes {
  const head = new Bytes();
  const long = channels.some((c) => c.name.length > 31);
  head.ints(MAGIC, VERSION | (long ? LONG_NAMES : 0));
  const window = (): Bytes => new Bytes().ints(0, 0, width - 1, height - 1);
  const byte = (value: number): Bytes => new Bytes().add(Uint8Array.of(value));
  attribute(head, 'channels', 'chlist', channelList(channels));
  attribute(head, 'chromaticities', 'chromaticities', new Bytes().floats(...PRIMARIES));
  for (const [name, text] of Object.entries(notes)) {
    attribute(head, name, 'string', new Bytes().add(new TextEncoder().encode(text)));
  }
  attribute(head, 'compression', 'compression', byte(ZIP));
  attribute(head, 'dataWindow', 'box2i', window());
  attribute(head, 'displayWindow', 'box2i', window());
  if (rate) attribute(head, 'framesPerSecond', 'rational', new Bytes().ints(...rate));
  attribute(head, 'lineOrder', 'lineOrder', byte(0));
  attribute(head, 'pixelAspectRatio', 'float', new Bytes().floats(1));
  attribute(head, 'screenWindowCenter', 'v2f', new Bytes().floats(0, 0));
  attribute(head, 'screenWindowWidth', 'float', new Bytes().floats(1));
  return head.add(new Uint8Array(1));
}

/** Lines from one to below another: of each line all channels, one after the other. */
function linesOf(
  { width }: ExrPicture,
  channels: readonly ExrChannel[],
  from: number,
  to: number,
): Uint8Array {
  const wide = channels.reduce((sum, { as }) => sum + width * SIZES[as], 0);
  const bytes = new Uint8Array((to - from) * wide);
  let at = 0;
  for (let y = from; y < to; y++) {
    for (const { values, as } of channels) {
      const line = values.subarray(y * width, (y + 1) * width);
      if (as === 'half') putHalves(line, bytes, at);
      else bytes.set(new Uint8Array(line.buffer, line.byteOffset, line.byteLength), at);
      at += width * SIZES[as];
    }
  }
  return bytes;
}

/** A block as it is packed: bytes at even and odd places apart, each as what it is more than the one before. */
function apart(bytes: Uint8Array): Uint8Array {
  const { length } = bytes;
  const half = (length + 1) >> 1;
  const out = new Uint8Array(length);
  let before = 0;
  for (let i = 0; i < length; i += 2) {
    const value = bytes[i]!;
    out[i >> 1] = value - before + 128;
    before = value;
  }
  for (let i = 1; i < length; i += 2) {
    const value = bytes[i]!;
    out[half + (i >> 1)] = value - before + 128;
    before = value;
  }
  // The very first one stands as it is.
  out[0] = bytes[0]!;
  return out;
}

async function block(bytes: Uint8Array): Promise<Uint8Array> {
  const zipped = await packed(apart(bytes));
  return zipped.length < bytes.length ? zipped : bytes;
}

/** A name as the layout sorts it: by its bytes, and not by JavaScript's units of two bytes. */
function sortKey(name: string): string {
  return String.fromCharCode(...new TextEncoder().encode(name));
}

/**
 * A picture as an OpenEXR file; its channels stand in the order of their names.
 *
 * @throws Error where a channel has not one number for each pixel, or two have one name
 */
export async function exrOf(picture: ExrPicture): Promise<Uint8Array<ArrayBuffer>> {
  const { width, height } = picture;
  const channels = [...picture.channels].sort((a, b) =>
    sortKey(a.name) < sortKey(b.name) ? -1 : 1,
  );
  for (const [i, { name, values }] of channels.entries()) {
    if (values.length !== width * height) {
      throw new Error(
        `exr: ${name} has ${String(values.length)} numbers for ${String(width * height)} pixels`,
      );
    }
    if (channels[i + 1]?.name === name) throw new Error(`exr: there are two channels ${name}`);
  }
  const head = headOf(picture, channels);
  const making: Promise<Uint8Array>[] = [];
  for (let from = 0; from < height; from += LINES) {
    reportProgress('', from / height);
    making.push(block(linesOf(picture, channels, from, Math.min(height, from + LINES))));
  }
  const blocks = await Promise.all(making);
  const offsets = new DataView(new ArrayBuffer(8 * blocks.length));
  let at = head.length + offsets.byteLength;
  blocks.forEach((block, i) => {
    offsets.setBigUint64(8 * i, BigInt(at), true);
    at += 8 + block.length;
  });
  const file = head.add(new Uint8Array(offsets.buffer));
  blocks.forEach((block, i) => file.ints(i * LINES, block.length).add(block));
  return file.all();
}
