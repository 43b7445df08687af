import { GifReader } from 'omggif';
import { StockError } from '../error';
import { checkPictureSize } from '../pictureSize';
import { laidOver } from './laidOver';
import { timesOf, type OpenClip } from './opened';

/** Hundredths of a second that a picture lasts which says that it takes no time. */
const AT_ONCE = 10;

/** Disposal of a picture (GIF89a, 23). */
const LEAVES = ['itself', 'itself', 'nothing', 'what was before'] as const;

/** An animated GIF: its pictures are laid over each other as each says. */
export function openGif(name: string, bytes: Uint8Array): OpenClip {
  const gif = new GifReader(bytes);
  const { width, height } = gif;
  const count = gif.numFrames();
  if (count === 0) throw new StockError(name, 'there is no picture in it');
  checkPictureSize(name, width, height);
  const frames = Array.from({ length: count }, (_, i) => gif.frameInfo(i));
  const layers = frames.map(({ disposal, ...place }) => {
    return { ...place, leaves: LEAVES[disposal] ?? 'itself' };
  });
  const picture = laidOver(width, height, layers, (index, canvas) => {
    gif.decodeAndBlitFrameRGBA(index, canvas);
  });
  const seconds = frames.map(({ delay }) => (delay > 1 ? delay : AT_ONCE) / 100);
  return { width, height, times: timesOf(seconds), picture };
}
