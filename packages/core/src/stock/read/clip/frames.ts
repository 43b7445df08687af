import { decode } from 'jpeg-js';
import { isOwnFile, unzip, ZipError, type Zipped } from '../zip';
import type { Picture } from '../../types';
import { StockError } from '../error';
import { checkPictureSize } from '../pictureSize';
import { pictureOf } from '../png';
import type { OpenClip } from './opened';

/** Frames a second of numbered frames, which tell none. */
const RATE = 30;

interface Numbered {
  number: number;
  file: string;
  bytes: Uint8Array;
}

function picturesIn(name: string, bytes: Uint8Array): Zipped {
  try {
    return unzip(bytes, (file) => /\.(png|jpe?g)$/i.test(file) && isOwnFile(file));
  } catch (error) {
    if (error instanceof ZipError) throw new StockError(name, error.message.replace(/\.$/, ''));
    throw error;
  }
}

function numbered(name: string, bytes: Uint8Array): Numbered[] {
  const files = picturesIn(name, bytes);
  return Object.entries(files)
    .map(([file, own]) => ({ number: numberOf(file), file, bytes: own }))
    .sort((a, b) => a.number - b.number || (a.file < b.file ? -1 : 1));
}

/** The last number in a file's name. */
function numberOf(file: string): number {
  return Number(/(\d+)\D*$/.exec(file.replace(/\.\w+$/, ''))?.[1] ?? NaN);
}

/**
 * Numbered frames in a zip, 30 a second: where numbers are left out, the frame before stays. All have one size.
 *
 * @throws StockError that names the first frame that does not fit
 */
export function openFrames(name: string, bytes: Uint8Array): OpenClip {
  const all = numbered(name, bytes);
  if (all.length === 0) throw new StockError(name, 'there is no PNG or JPEG in it');
  const bad = all.find(({ number }, i) => Number.isNaN(number) || number === all[i - 1]?.number);
  if (bad) {
    const why = Number.isNaN(bad.number) ? 'has no number' : 'has the number of another';
    throw new StockError(name, `the frame '${bad.file}' ${why}`);
  }
  const [{ number: first }] = all as [Numbered];
  const times = Float64Array.from([...all, null], (frame) =>
    frame ? (frame.number - first) / RATE : (all.at(-1)!.number - first + 1) / RATE,
  );
  const read = ({ file, bytes: own }: Numbered): Picture => {
    try {
      return /png$/i.test(file) ? pictureOf(file, own) : jpegOf(file, own);
    } catch (error) {
      throw new StockError(name, `the frame ${(error as Error).message}`);
    }
  };
  const { width, height } = read(all[0]!);
  for (const frame of all.slice(1)) checkSize(name, frame, width, height);
  return { width, height, times, picture: (index) => read(all[index]!) };
}

/** A frame's size from its head, without unpacking it. */
function sizeOf(bytes: Uint8Array): [number, number] | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes[1] === 0x50 && bytes.length >= 24) return [view.getUint32(16), view.getUint32(20)];
  // JPEG: markers with their lengths, up to the start of a frame (ITU-T T.81, annex B).
  for (let at = 2; at + 9 < bytes.length; at += 2 + view.getUint16(at + 2)) {
    const marker = bytes[at + 1]!;
    const starts = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);
    if (starts) return [view.getUint16(at + 7), view.getUint16(at + 5)];
  }
  return null;
}

function checkSize(name: string, { file, bytes }: Numbered, width: number, height: number): void {
  const size = sizeOf(bytes);
  if (!size) throw new StockError(name, `the frame '${file}' cannot be read`);
  if (size[0] === width && size[1] === height) return;
  const [is, first] = [size, [width, height]].map((s) => s.join(' × '));
  throw new StockError(name, `the frame '${file}' has ${is!} pixels, the first has ${first!}`);
}

/** A JPEG as eight bits of red, green, blue, opaque. */
function jpegOf(file: string, bytes: Uint8Array): Picture {
  const size = sizeOf(bytes);
  if (!size) throw new StockError(file, 'the JPEG cannot be read');
  checkPictureSize(file, ...size);
  const { width, height, data } = decode(bytes, { useTArray: true, maxMemoryUsageInMB: 2048 });
  return { type: 'picture', width, height, pixels: data };
}
