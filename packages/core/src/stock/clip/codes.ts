import { fromLinear } from '../../feeds/colour';

/** Bytes of sRGB by linear light in steps of 1/4095: light in between is no more than one byte off. */
export const CODES_OF_LIGHT = Uint8Array.from({ length: 4096 }, (_, i) =>
  Math.round(255 * fromLinear(i / 4095)),
);
