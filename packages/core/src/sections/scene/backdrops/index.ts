import type { BackdropKind } from '../../kinds';
import { flat } from './flat';
import { linear } from './linear';
import { radial } from './radial';

/** Backdrops, in the order of the chooser. */
export const backdrops: BackdropKind[] = [flat, linear, radial];
