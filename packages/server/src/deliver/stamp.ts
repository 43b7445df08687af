import { createHash } from 'node:crypto';
import { closeSync, fstatSync, openSync, readSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { crc32 } from 'node:zlib';
import { z } from 'zod';

/**
 * What a frame says of itself in its file: what it was made of, and the length and the sum of all that stands behind it.
 * By it a render knows which frames are there, are whole and are its own.
 */

const schema = z.object({
  format: z.literal('vast-swarm frame'),
  frame: z.number().int(),
  made: z.record(z.string(), z.unknown()),
  bytes: z.number(),
  sum: z.string(),
});
export type Stamp = z.infer<typeof schema>;

/**
 * Places of the length and of the sum, which are known when all else has been written. A stamp has less than 256 bytes:
 * some readers of OpenEXR lose their way behind longer texts.
 */
const BYTES = 12;
const SUM = 24;
/** Bytes behind a stamp that are not counted: a PNG has the sum of the text there. */
const APART = 4;
/** Where nothing is said so far in a file, nothing is. */
const SEARCHED = 4096;

/** What makes frames what they are: where all of this is equal, they are. */
export interface FramesMade {
  size: string;
  oversample: number;
  alpha: boolean;
  format: string;
  /** The hash of the piece's file, with all that is set and played. */
  piece: string;
  program: string;
}

export function stampText(frame: number, made: FramesMade): string {
  const bytes = Number(`1${'0'.repeat(BYTES - 1)}`);
  const stamp: Stamp = {
    ...{ format: 'vast-swarm frame', frame, made: { ...made } },
    ...{ bytes, sum: '0'.repeat(SUM) },
  };
  return JSON.stringify(stamp);
}

const sumOf = (bytes: Uint8Array): string =>
  createHash('sha256').update(bytes).digest('hex').slice(0, SUM);

/** Where a stamp stands in a file, and where it ends; null without one. */
function placeOf(file: Buffer): { from: number; to: number } | null {
  const from = file.subarray(0, SEARCHED).indexOf('{"format":"vast-swarm frame"');
  const sum = file.indexOf('"sum":"', from);
  return from < 0 || sum < 0 ? null : { from, to: sum + '"sum":"'.length + SUM + '"}'.length };
}

/** Puts length and sum into a file that has the text of a stamp. */
export function complete(bytes: Uint8Array): Uint8Array {
  const file = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length);
  const { from, to } = placeOf(file)!;
  const text = file.toString('utf8', from, to).replace(/"bytes":\d+,"sum":"0+"/, () => {
    // Blanks are nothing in JSON, and keep its length.
    const length = `"bytes":${String(file.length)}`.padEnd('"bytes":'.length + BYTES);
    return `${length},"sum":"${sumOf(file.subarray(to + APART))}"`;
  });
  file.write(text, from);
  return bytes;
}

/** Bytes of a PNG file before which it may say more: its signature, its head, and that it is sRGB. */
const PNG_HEAD = 46;

/** A PNG file with a text (W3C, PNG, 11.3.3.2); its sum counts what stands behind. */
export function completePng(bytes: Uint8Array, text: string): Uint8Array {
  const chunk = Buffer.alloc(12 + 'Software\0'.length + Buffer.byteLength(text));
  chunk.writeUInt32BE(chunk.length - 12);
  chunk.write(`tEXtSoftware\0${text}`, 4);
  const parts = [bytes.subarray(0, PNG_HEAD), chunk, bytes.subarray(PNG_HEAD)];
  const file = Buffer.concat(parts);
  complete(file);
  const end = PNG_HEAD + chunk.length - 4;
  file.writeUInt32BE(crc32(file.subarray(PNG_HEAD + 4, end)), end);
  return file;
}

function parsed(text: string): Stamp | null {
  try {
    return schema.parse(JSON.parse(text));
  } catch {
    return null;
  }
}

/** What a file says of itself where it is as long as it says; null else. Only its beginning is read. */
export function stampOf(path: string): { stamp: Stamp; written: number } | null {
  let file: number;
  try {
    file = openSync(path, 'r');
  } catch {
    return null;
  }
  try {
    const head = Buffer.alloc(SEARCHED);
    const read = readSync(file, head);
    const place = placeOf(head.subarray(0, read));
    const stamp = place && parsed(head.toString('utf8', place.from, place.to));
    const { size, mtimeMs } = fstatSync(file);
    return stamp && stamp.bytes === size ? { stamp, written: mtimeMs } : null;
  } finally {
    closeSync(file);
  }
}

/** Whether all that stands behind its stamp is as it was written. */
export async function isTrue(path: string, { sum }: Stamp): Promise<boolean> {
  const file = await readFile(path);
  const place = placeOf(file);
  return place !== null && sumOf(file.subarray(place.to + APART)) === sum;
}
