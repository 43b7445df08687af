/**
 * The frame in which a moment lies: a frame lasts from just after frame / rate to (frame + 1) / rate,
 * so that the picture, which takes the end of its frame, is of that frame.
 * @param time in seconds of the piece
 * @param rate frames a second
 */
export function frameAt(time: number, rate: number): number {
  // A thousandth of a frame keeps rounding from the border.
  return Math.ceil(time * rate - 1e-3) - 1;
}
