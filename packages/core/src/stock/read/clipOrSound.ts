import { endingOf } from '../clip/travel';
import type { Clip, Sound, StockData } from '../types';
import { clipFileOf, openClip } from './clip';
import { StockError } from './error';

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
  const soundOf = async (): Promise<Sound> =>
    (await import('./sound')).soundOf(name, bytes, progress);
  if (heard === 'only') return soundOf();
  // One that cannot be decoded is no reason to refuse the pictures; it is heard of before these are there.
  const sound = heard === 'none' ? undefined : soundOf().then((read) => ({ sound: read }), refusal);
  const clip = await openClip(name, bytes, kind);
  const own = await sound;
  return { type: 'clip', ...clip, ...own, file: { name, bytes } };
}

function refusal(error: unknown): Pick<Clip, 'unheard'> {
  return { unheard: error instanceof StockError ? error.problem : String(error) };
}
