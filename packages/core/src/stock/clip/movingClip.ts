import { LIGHT } from '../../feeds/colour';
import { beginsAgain, numberAt, secondAt, type Played } from '../played';
import { CODES_OF_LIGHT } from './codes';
import { allOf, thenDo } from './soon';
import type { Clip, MovingPicture, Picture } from '../types';

/** How a clip is played. */
export interface Playing extends Played {
  /** Whether two pictures are mixed where a frame falls between them. */
  mixes: boolean;
}

/** Part of a frame's time at which it looks: at no usual speed pictures change just then. */
const WITHIN = 0.3;
/** Steps of a mix from one picture to the next. */
const STEPS = 64;

/**
 * A clip as it is played. A frame shows what is there at WITHIN of its time, so that of a clip of the same rate it
 * shows the picture of its own number, whatever was rounded in the file.
 */
export function movingClip(
  clip: Clip,
  name: string,
  rate: number,
  playing: Playing,
): MovingPicture {
  const { width, height, times } = clip;
  const last = times.length - 2;
  const second = (frame: number): number => secondAt(clip, playing, (frame + WITHIN) / rate);
  const jumps = (frame: number): boolean =>
    beginsAgain(clip, playing, (frame - 1 + WITHIN) / rate, (frame + WITHIN) / rate);
  const moving = { type: 'moving' as const, name, width, height, jumps };
  if (!playing.mixes) {
    const stateAt = (frame: number): number => numberAt(clip, second(frame));
    return { ...moving, stateAt, at: clip.picture };
  }
  const next = (index: number): number =>
    index < last ? index + 1 : playing.ends === 'loop' ? numberAt(clip, playing.from) : last;
  return {
    ...moving,
    stateAt(frame) {
      // From its own middle on a picture gives way to the next.
      const at = second(frame);
      const index = numberAt(clip, at);
      const length = times[index + 1]! - times[index]!;
      const part = length > 0 ? (at - times[index]!) / length : 0;
      return index * STEPS + Math.min(STEPS - 1, Math.max(0, Math.floor(part * STEPS)));
    },
    at(state) {
      const index = Math.floor(state / STEPS);
      const part = (state % STEPS) / STEPS;
      if (part === 0) return clip.picture(index);
      const both = [clip.picture(index), clip.picture(next(index))];
      return thenDo(allOf(both), ([a, b]) => mixed(a!, b!, part));
    },
  };
}

/** Two pictures of one size, mixed in linear light; opacity as it is. */
function mixed(a: Picture, b: Picture, part: number): Picture {
  const pixels = new Uint8Array(a.pixels.length);
  for (let i = 0; i < pixels.length; i++) {
    const [p, q] = [a.pixels[i]!, b.pixels[i]!];
    if (p === q) pixels[i] = p;
    else if ((i & 3) === 3) pixels[i] = Math.round(p + (q - p) * part);
    else {
      const light = LIGHT[p]! + (LIGHT[q]! - LIGHT[p]!) * part;
      pixels[i] = CODES_OF_LIGHT[Math.round(light * 4095)]!;
    }
  }
  return { ...a, pixels };
}
