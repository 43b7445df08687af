import { kept } from '../../clip/kept';
import { StockError } from '../error';
import type { OpenClip } from './opened';

export type { OpenClip } from './opened';

/** Files that are clips whatever is in them, and those that may be. */
export type ClipFile = 'gif' | 'apng' | 'zip' | 'video';

/**
 * Opens the file of a clip: animated GIF and PNG, numbered PNG and JPEG in a zip, MP4 and WebM. Its pictures are
 * decoded when they are asked for; the first at once, to see whether they can be.
 *
 * @throws StockError that says what is wrong
 */
export async function openClip(name: string, bytes: Uint8Array, file: ClipFile): Promise<OpenClip> {
  const open = {
    gif: async () => (await import('./gif')).openGif,
    apng: async () => (await import('./apng')).openApng,
    zip: async () => (await import('./frames')).openFrames,
    video: async () => (await import('./video')).openVideo,
  };
  try {
    const clip = await (await open[file]())(name, bytes);
    const picture = kept(KEPT, clip.picture);
    // What cannot be decoded is told now, not when it is played.
    await picture(0);
    return { ...clip, picture };
  } catch (error) {
    if (error instanceof StockError) throw error;
    const why = (error instanceof Error ? error.message : String(error)).replace(/\.$/, '');
    throw new StockError(name, `it cannot be read as a clip (${why})`);
  }
}

/** The kind of a clip's file by its ending and its first bytes; null where it is none. */
export function clipFileOf(ending: string, bytes: Uint8Array): ClipFile | null {
  if (ending === 'gif' || ending === 'zip') return ending;
  if (ending === 'mp4' || ending === 'webm' || ending === 'mov') return 'video';
  if (ending === 'png' || ending === 'apng') return hasAnimation(bytes) ? 'apng' : null;
  return null;
}

/** Whether a PNG has an `acTL` chunk before its image (PNG specification, third edition, 11.3.6). */
function hasAnimation(bytes: Uint8Array): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 8; at + 8 <= bytes.length; at += 12 + view.getUint32(at)) {
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (type === 'acTL') return true;
    if (type === 'IDAT') return false;
  }
  return false;
}

/** Pictures that were asked for last are at hand: several things of a piece may show one. */
const KEPT = 4;
