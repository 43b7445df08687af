import type { Still } from '@vast-swarm/core/formats';
import { closeSync, fstatSync, openSync, readSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { z } from 'zod';
import { hashOf } from '../hashOf';

/**
 * A frame's stamp in its file: what it was made of, and the length and the sum of all that stands behind it.
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

/** The making of frames: where all of this is equal, they are. */
export interface FramesMade {
  size: string;
  oversample: number;
  alpha: boolean;
  format: string;
  /** Layers beside the picture, each by its first letter. */
  layers: string;
  /** The hash of the piece's file, with all that is set and played. */
  piece: string;
  program: string;
}

export function stampText(frame: number, made: FramesMade): string {
  const bytes = Number(`1${'0'.repeat(BYTES - 1)}`);
  const stamp: Stamp = {
    format: 'vast-swarm frame',
    frame,
    made: { ...made },
    bytes,
    sum: '0'.repeat(SUM),
  };
  return JSON.stringify(stamp);
}

const sumOf = (bytes: Uint8Array): string => hashOf(bytes).slice(0, SUM);

/** Where a stamp stands in a file, and where it ends; null without one. */
function placeOf(file: Buffer): { from: number; to: number } | null {
  const from = file.subarray(0, SEARCHED).indexOf('{"format":"vast-swarm frame"');
  const sum = file.indexOf('"sum":"', from);
  return from < 0 || sum < 0 ? null : { from, to: sum + '"sum":"'.length + SUM + '"}'.length };
}

/** The text of a stamp with the length of its file and the sum of what stands behind; as long as before. */
function filled(text: string, length: number, rest: Uint8Array): string {
  return text.replace(/"bytes":\d+,"sum":"0+"/, () => {
    // Blanks are nothing in JSON, and keep its length.
    const bytes = `"bytes":${String(length)}`.padEnd('"bytes":'.length + BYTES);
    return `${bytes},"sum":"${sumOf(rest)}"`;
  });
}

/** Puts length and sum into a file of a frame that has the text of a stamp among its notes. */
export function complete(bytes: Uint8Array, { amend }: Pick<Still, 'amend'>): Uint8Array {
  const file = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length);
  const { from, to } = placeOf(file)!;
  const rest = file.subarray(to + APART);
  file.write(filled(file.toString('utf8', from, to), file.length, rest), from);
  amend?.(bytes);
  return bytes;
}

function parsed(text: string): Stamp | null {
  try {
    return schema.parse(JSON.parse(text));
  } catch {
    return null;
  }
}

/** The stamp in the bytes of a frame; null where there is none. */
export function stampIn(bytes: Buffer): Stamp | null {
  const place = placeOf(bytes.subarray(0, SEARCHED));
  return place && parsed(bytes.toString('utf8', place.from, place.to));
}

/** The stamp of a file that is as long as it says; null else. Only its beginning is read. */
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
    const stamp = stampIn(head.subarray(0, read));
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
