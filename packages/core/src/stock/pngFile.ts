import { crc32 } from './crc32';

/** The structure of PNG files (W3C, "Portable Network Graphics", third edition); sections are of it. */

/** A chunk: its type, four letters, and what is in it. */
export interface Chunk {
  type: string;
  data: Uint8Array;
}

/** The first bytes of each file (5.2). */
export const SIGNATURE: readonly number[] = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];

/** Bytes of a chunk beside its data: its length, its type and its sum (5.3). */
export const AROUND = 12;

/** Puts the sum behind a chunk whose length, type and data stand in a file from a byte on. */
export function sumChunk(file: Uint8Array, at: number): void {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength);
  const end = at + 8 + view.getUint32(at);
  view.setUint32(end, crc32(file.subarray(at + 4, end)));
}

/** A file of these chunks without their sums, for readers that do not look at them. */
export function unsummed(chunks: readonly Chunk[]): Uint8Array<ArrayBuffer> {
  const size = chunks.reduce((sum, { data }) => sum + AROUND + data.length, SIGNATURE.length);
  const file = new Uint8Array(size);
  const view = new DataView(file.buffer);
  file.set(SIGNATURE);
  let at = SIGNATURE.length;
  for (const { type, data } of chunks) {
    view.setUint32(at, data.length);
    for (let k = 0; k < 4; k++) file[at + 4 + k] = type.charCodeAt(k);
    file.set(data, at + 8);
    at += AROUND + data.length;
  }
  return file;
}

/** A file of these chunks. */
export function pngOf(chunks: readonly Chunk[]): Uint8Array<ArrayBuffer> {
  const file = unsummed(chunks);
  let at = SIGNATURE.length;
  for (const { data } of chunks) {
    sumChunk(file, at);
    at += AROUND + data.length;
  }
  return file;
}
