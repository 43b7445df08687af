import { rename, writeFile } from 'node:fs/promises';

/** Writes a file so that it is there whole or not at all. */
export async function writeWhole(file: string, data: string | Uint8Array): Promise<void> {
  const part = `${file}.part`;
  await writeFile(part, data);
  await rename(part, file);
}

/** A name with %04d (or any width) gets the number; one without stays. */
export function numbered(name: string, frame: number): string {
  return name.replace(/%0?(\d*)d/, (_, width: string) =>
    String(frame).padStart(Number(width) || 0, '0'),
  );
}
