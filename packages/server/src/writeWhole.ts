import { mkdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { dirname, resolve } from 'node:path';
import { Refused } from './refused';

/** Words for codes of the system, of those that happen. */
const WORDS: Readonly<Record<string, string>> = {
  ENOSPC: 'there is no room left on the disk',
  EDQUOT: 'there is no room left on the disk',
  EACCES: 'this is not allowed',
  EPERM: 'this is not allowed',
  EROFS: 'nothing can be written there',
  ENOENT: 'the folder is not there',
  ENOTDIR: 'one of its folders is a file',
  EEXIST: 'there is a file of that name',
  EISDIR: 'there is a folder of that name',
  ENAMETOOLONG: 'the name is too long',
};

/** Why the system would not, in words. */
export function whyNot(error: unknown): string {
  const code = error instanceof Error && 'code' in error ? String(error.code) : 'unknown';
  return WORDS[code] ? `${WORDS[code]} (${code})` : code;
}

/**
 * Writes a file so that it is there whole or not at all.
 * @throws Refused that names the file and why
 */
export async function writeWhole(
  file: string,
  data: string | Uint8Array | Iterable<Uint8Array>,
): Promise<void> {
  const part = `${file}.part`;
  try {
    await writeFile(part, data);
    await rename(part, file);
  } catch (error) {
    await rm(part, { force: true }).catch(() => undefined);
    throw new Refused(`${file}: cannot be written: ${whyNot(error)}.`);
  }
}

/**
 * Makes a folder where it is not there.
 * @throws Refused that names it and why
 */
export async function makeFolder(folder: string): Promise<void> {
  try {
    await makeFrom(resolve(folder));
  } catch (error) {
    throw new Refused(`${folder}: this folder cannot be made: ${whyNot(error)}.`);
  }
}

/**
 * Makes a folder and those that it is in, each by itself: all at once Node tries for ever where a system of files is not
 * one to be written to, as /proc.
 */
async function makeFrom(folder: string): Promise<void> {
  const there = await stat(folder).catch((error: unknown) => {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
    throw error;
  });
  if (there?.isDirectory()) return;
  if (!there) await makeFrom(dirname(folder));
  await mkdir(folder).catch(async (error: unknown) => {
    // Another one may have made it meanwhile.
    if (!(await stat(folder).catch(() => null))?.isDirectory()) throw error;
  });
}
