/** Metres that a particle keeps from a surface that it has met, so that rounding does not take it through. */
export const TOUCH = 1e-4;
