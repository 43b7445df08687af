import { memo } from '../memo';
import { cellOf } from '../places/pictureCell';
import type { Look, MovingPicture, Picture } from '../types';
import { flowBetween, greyOf } from './opticalFlow';
import { pixelWords } from './pixels';
import { allOf, thenDo, type Soon } from './soon';
import { spotsSeen } from './spots';

/** Findings in pictures, as a list of numbers that is not to be changed. */
export function lookAt(look: Look, pictures: readonly Picture[]): Float32Array {
  const [first, second] = pictures;
  switch (look.find) {
    case 'pixels':
      return pixelWords(first!);
    case 'cell':
      return cellOf(first!, 1, 1, 0).values;
    case 'spots':
      return spotsSeen(first!, look.choosing);
    case 'motion': {
      const grey = (picture: Picture): ReturnType<typeof greyOf> =>
        memo(picture, `grey.${String(look.detail)}`, () => greyOf(picture, look.detail));
      const { x, y } = flowBetween(grey(first!), grey(second!));
      const both = new Float32Array(2 * x.length);
      both.set(x);
      both.set(y, x.length);
      return both;
    }
  }
}

/** Findings in states of a moving picture: by somebody who looks for others, else here. */
export function seenIn(
  moving: MovingPicture,
  states: readonly number[],
  look: Look,
): Soon<Float32Array> {
  if (moving.seeing) return moving.seeing.find(states, look);
  return thenDo(allOf(states.map(moving.at)), (pictures) => lookAt(look, pictures));
}
