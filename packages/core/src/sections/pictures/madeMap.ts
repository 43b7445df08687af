import { fromLinear, linearRgb } from '../../feeds/colour';
import { colourDial, number, type ValuesOf } from '../../language/dials';
import { kept } from '../../stock/clip/kept';
import type { MovingPicture, Picture } from '../../stock/types';
import type { PictureContext } from '../kinds';

const group = 'Picture';
const never = { varies: 'never' as const };

/** Dials of every made map. */
export const mapDials = {
  dark: colourDial('Dark', '#000000', 'Where it has least.'),
  bright: colourDial('Bright', '#ffffff', 'Where it has most.'),
  shape: number('Shape', 1.7778, [0.1, 10], 'Its width in heights.', {
    ...never,
    group,
    drag: 'log',
  }),
  detail: number('Detail', 256, [16, 1024], 'Pixels along its longer side.', {
    unit: 'px',
    whole: true,
    group,
  }),
};

/** How it changes with time. */
export const changeDials = {
  change: number('Change', 0.3, [-100, 100], 'How fast it changes; 0 stands still.', {
    unit: '1/s',
    ...never,
  }),
  every: number('In steps of', 1, [1, 100_000], 'So many frames it stays as it is.', {
    unit: 'frames',
    whole: true,
  }),
};

type Shared = ValuesOf<typeof mapDials> & ValuesOf<typeof changeDials>;

/**
 * A map that is worked out pixel by pixel.
 *
 * @param kind and all its dials, which tell it from others
 * @param valueAt so many changes from the beginning: 0 to 1 at a place, in heights from the left and the top
 */
export function madeMap(
  kind: string,
  dials: Shared,
  { rate, seed }: PictureContext,
  valueAt: (at: number) => (x: number, y: number) => number,
): MovingPicture {
  const { shape, detail, change, every } = dials;
  const width = Math.max(1, Math.round(shape >= 1 ? detail : detail * shape));
  const height = Math.max(1, Math.round(shape >= 1 ? detail / shape : detail));
  const codes = codesOf(dials.dark, dials.bright);
  const at = kept(KEPT, (state: number): Picture => {
    const value = valueAt((state * every * change) / rate);
    const words = new Uint32Array(width * height);
    for (let j = 0, k = 0; j < height; j++) {
      for (let i = 0; i < width; i++, k++) {
        const v = value((i + 0.5) / height, (j + 0.5) / height);
        words[k] = codes[v <= 0 ? 0 : v >= 1 ? LEVELS : Math.round(v * LEVELS)]!;
      }
    }
    return { type: 'picture', width, height, pixels: new Uint8Array(words.buffer) };
  });
  return {
    type: 'moving',
    width,
    height,
    at,
    name: `${kind}.${JSON.stringify([rate, seed, dials])}`,
    stateAt: (frame) => (change === 0 ? 0 : Math.floor(frame / every)),
  };
}

/** States that are at hand: several things of a piece may show one. */
const KEPT = 4;
/** Steps from dark to bright. */
const LEVELS = 1023;

/** Pixels as words, red in the lowest byte, from dark to bright in even steps of light. */
function codesOf(dark: string, bright: string): Uint32Array {
  const [from, to] = [linearRgb(dark), linearRgb(bright)];
  return Uint32Array.from({ length: LEVELS + 1 }, (_, i) =>
    from.reduce((word, low, c) => {
      const light = low + ((to[c]! - low) * i) / LEVELS;
      return word | (Math.round(255 * fromLinear(light)) << (8 * c));
    }, 0xff << 24),
  );
}
