import { endingOf } from '../clip/travel';
import type { StockData } from '../types';
import { clipFileOf, openClip } from './clip';

/**
 * A clip with its sound; of a file that has no picture, its sound.
 *
 * @throws StockError that says what is wrong
 */
export async function clipOrSound(
  name: string,
  bytes: Uint8Array,
  progress: (part: number) => void,
): Promise<StockData> {
  const kind = clipFileOf(endingOf(name), bytes)!;
  const heard = kind === 'video' ? await (await import('./sound')).soundIn(bytes) : 'none';
  const sound =
    heard === 'none' ? undefined : (await import('./sound')).soundOf(name, bytes, progress);
  if (heard === 'only') return sound!;
  const clip = await openClip(name, bytes, kind);
  // One that cannot be decoded is no reason to refuse the pictures.
  const own = await sound?.catch(() => undefined);
  return { type: 'clip', ...clip, ...(own ? { sound: own } : {}), file: { name, bytes } };
}
