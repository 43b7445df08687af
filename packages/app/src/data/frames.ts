import { zipSync } from 'fflate';

const FRAME = /\.(png|jpe?g)$/i;

/**
 * Numbered frames of a folder, or several that were chosen at once, as the one file that a clip of them is: a zip in
 * which they stand as they are.
 *
 * @param files all of the folder; what is no PNG or JPEG is passed over
 * @throws Error where there is no frame
 */
export async function framesFile(files: readonly File[]): Promise<File> {
  const frames = files.filter(({ name }) => FRAME.test(name) && !name.startsWith('.'));
  const [first] = frames;
  if (!first) throw new Error('There is no PNG or JPEG in this folder.');
  const entries: Record<string, Uint8Array> = {};
  for (const frame of frames) {
    // Those of folders within it keep them in their names: two may have one name.
    const path = frame.webkitRelativePath.split('/').slice(1).join('/') || frame.name;
    entries[path] = new Uint8Array(await frame.arrayBuffer());
  }
  const folder = first.webkitRelativePath.split('/')[0];
  const name = folder || first.name.replace(FRAME, '').replace(/[\s_.-]*\d+$/, '') || 'Frames';
  const zip = zipSync(entries, { level: 0 });
  return new File([zip], `${name}.zip`, { type: 'application/zip' });
}

/** Whether several files at once are the frames of a clip. */
export function areFrames(files: readonly File[]): boolean {
  return files.length > 1 && files.every(({ name }) => FRAME.test(name));
}
