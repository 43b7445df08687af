import { unzipSync } from 'fflate';
import { reportProgress } from '../../progress';

/** The fault of a zip, in words. */
export class ZipError extends Error {
  override readonly name = 'ZipError';
}

/** Files of a zip by their names, and the names of folders before them. */
export type Zipped = Record<string, Uint8Array>;

/** Bytes that all files of a zip may have together when they are unpacked. */
const MOST = 2 ** 30;
/** Most files of a zip. */
const MOST_FILES = 20_000;

/** Bytes a second that are unpacked on a slow machine at least: a file is unpacked without a word on the way. */
const SPEED = 30e6;

/** Of systems that keep notes of their own beside files: not what somebody has put in. */
export function isOwnFile(name: string): boolean {
  return !name.endsWith('/') && !/(^|\/)(\.|__MACOSX\/)/.test(name);
}

/** Whether files of a zip are encrypted, by its table (PKWARE, APPNOTE 6.3.10, 4.3.12: bit 0 of the flags). */
function isEncrypted(bytes: Uint8Array): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let end = bytes.length - 22;
  while (end >= Math.max(0, bytes.length - 65_557) && view.getUint32(end, true) !== 0x06054b50) {
    end -= 1;
  }
  if (end < 0 || view.getUint32(end, true) !== 0x06054b50) return false;
  let at = view.getUint32(end + 16, true);
  while (at + 46 <= end && view.getUint32(at, true) === 0x02014b50) {
    if (view.getUint16(at + 8, true) & 1) return true;
    const [name, extra, note] = [28, 30, 32].map((o) => view.getUint16(at + o, true));
    at += 46 + name! + extra! + note!;
  }
  return false;
}

/** Bytes of all wanted files, by the table: nothing is unpacked for it. */
function sizeOf(bytes: Uint8Array, wanted: (name: string) => boolean): number {
  let [all, files] = [0, 0];
  unzipSync(bytes, {
    filter({ name, originalSize }) {
      if (!wanted(name)) return false;
      all += originalSize;
      files += 1;
      if (all > MOST) throw new ZipError('The zip unpacks to more than 1 GB; take it apart first.');
      if (files > MOST_FILES) throw new ZipError('The zip has more than 20,000 files.');
      return false;
    },
  });
  return all;
}

/**
 * Unpacks a zip: what its files come to is known from its table before any of them is unpacked.
 *
 * @param wanted which of its files, by name
 * @throws ZipError where it cannot be read, or would not fit into memory
 */
export function unzip(bytes: Uint8Array, wanted: (name: string) => boolean = isOwnFile): Zipped {
  try {
    if (isEncrypted(bytes)) {
      throw new ZipError('The zip is encrypted; save it without a password.');
    }
    const all = sizeOf(bytes, wanted);
    let done = 0;
    return unzipSync(bytes, {
      filter({ name, originalSize }) {
        if (!wanted(name)) return false;
        reportProgress(name, done / all, originalSize / SPEED);
        done += originalSize;
        return true;
      },
    });
  } catch (error) {
    if (error instanceof ZipError) throw error;
    throw new ZipError(
      `The zip cannot be opened (${(error as Error).message}); it may be cut off, or no zip at all.`,
    );
  }
}
