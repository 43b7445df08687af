import { number } from '../../../language/dials';

/** Dials of every launch. */
export const launchDials = {
  inherit: number(
    'Inherits',
    0,
    [-10, 10],
    "The part of the emitter's own velocity it takes along.",
    { varies: 'birth' },
  ),
};
