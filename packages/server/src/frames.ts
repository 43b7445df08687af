import type { Piece } from '@vast-swarm/core/piece';
import { Refused } from './refused';

/**
 * Frames that were asked for, from first to last; all where none were.
 * @throws Refused where the piece has not so many
 */
export function framesOf({ frame }: Piece, asked?: readonly [number, number]): [number, number] {
  const end = frame.length - 1;
  const [first, last] = asked ?? [0, end];
  if (last <= end) return [first, last];
  throw new Refused(
    `--frames ${String(first)}..${String(last)}: the piece has frames 0 to ${String(end)}; --set frame.length=${String(last + 1)} makes it longer.`,
  );
}
