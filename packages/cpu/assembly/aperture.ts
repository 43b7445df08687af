// The opening of the lens, by which marks are blurred that are out of focus.

import { arg, argF } from './args';
import { edged } from './generated/shapes';
import { Marks } from './generated/words';

/** The opening of the lens: an even light within its shape, `au` and `av` straight on the screen. */
// @inline
export function aperture(args: usize, au: v128, av: v128, edge: v128): v128 {
  const blades = arg(args, Marks.BLADES);
  const x = f32x4.mul(au, f32x4.splat(argF(args, Marks.ASPECT_U)));
  const y = f32x4.mul(av, f32x4.splat(argF(args, Marks.ASPECT)));
  if (blades < 3)
    return edged(f32x4.sub(f32x4.splat(1), f32x4.add(f32x4.mul(x, x), f32x4.mul(y, y))), edge);
  let far = f32x4.splat(0);
  for (let i = 0; i < blades; i++) {
    const nx = f32x4.splat(argF(args, Marks.FLATS + 2 * i));
    const ny = f32x4.splat(argF(args, Marks.FLATS + 2 * i + 1));
    far = f32x4.pmax(far, f32x4.add(f32x4.mul(x, nx), f32x4.mul(y, ny)));
  }
  return edged(f32x4.sub(f32x4.splat(1), f32x4.mul(far, far)), edge);
}
