/** Stretches of a sound that its preview shows: one a pixel. */
export const WAVE = 200;
