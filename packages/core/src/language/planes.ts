/** The frame's planes of linear light; a row takes `stride` lanes, a multiple of 4. */
export const PLANES = ['r', 'g', 'b'] as const;

/** Lanes of one row of a frame. */
export function strideOf(width: number): number {
  return (width + 3) & ~3;
}
