import { GifReader } from 'omggif';
import type { Picture } from '../../types';
import { StockError } from '../error';
import { checkPictureSize } from '../picture';
import { timesOf, type OpenClip } from './opened';

/** Hundredths of a second that a picture lasts which says that it takes no time. */
const AT_ONCE = 10;

/** An animated GIF: its pictures are laid over each other as each says (GIF89a, 23). */
export function openGif(name: string, bytes: Uint8Array): OpenClip {
  const gif = new GifReader(bytes);
  const { width, height } = gif;
  const count = gif.numFrames();
  if (count === 0 || width === 0 || height === 0) {
    throw new StockError(name, 'there is no picture in it');
  }
  checkPictureSize(name, width, height);
  const frames = Array.from({ length: count }, (_, i) => gif.frameInfo(i));
  const canvas = new Uint8Array(4 * width * height);
  let before: Uint8Array | null = null;
  let next = 0;
  const clear = ({ x, y, width: w, height: h }: (typeof frames)[number]): void => {
    for (let j = y; j < Math.min(height, y + h); j++) {
      canvas.fill(0, 4 * (j * width + x), 4 * (j * width + Math.min(width, x + w)));
    }
  };
  /** Lays the next picture over what is there. */
  const advance = (): void => {
    const last = frames[next - 1];
    if (last?.disposal === 2) clear(last);
    if (last?.disposal === 3 && before) canvas.set(before);
    before = frames[next]!.disposal === 3 ? canvas.slice() : null;
    gif.decodeAndBlitFrameRGBA(next, canvas);
    next += 1;
  };
  const picture = (index: number): Picture => {
    if (index < next - 1) {
      canvas.fill(0);
      next = 0;
    }
    while (next <= index) advance();
    return { type: 'picture', width, height, pixels: canvas.slice() };
  };
  const seconds = frames.map(({ delay }) => (delay > 1 ? delay : AT_ONCE) / 100);
  return { width, height, times: timesOf(seconds), picture };
}
