/**
 * The stretch of something that is played, in seconds of it, within what there is.
 *
 * @param to where it ends; 0 is its own end
 */
export function stretchOf(from: number, to: number, whole: number): [from: number, to: number] {
  const begin = Math.min(from, whole);
  return [begin, to > 0 ? Math.max(begin, Math.min(to, whole)) : whole];
}
