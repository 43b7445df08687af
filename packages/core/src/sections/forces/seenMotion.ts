import type { Expr } from '@vast-swarm/kernel';
import { flowSize, flowTrack, type FlowOptions } from '../../language/flowTrack';
import type { PartReader } from '../../language/partReader';
import type { MovingPicture } from '../../stock/types';
import { readCells } from './plane';

/**
 * The motion that is seen in a moving picture at a place, 0 to 1 from the left and from the top: to the right and
 * up, in widths and heights of the picture a frame.
 */
export function seenMotion(
  dial: PartReader,
  moving: MovingPicture,
  options: FlowOptions,
  u: Expr,
  v: Expr,
): [right: Expr, up: Expr] {
  const { width, height } = flowSize(moving, options.detail);
  const track = flowTrack(moving, options);
  const read = (part: number): Expr =>
    readCells((cell) => dial.track(track, cell.add(part * width * height)), width, height, u, v);
  return [read(0), read(1)];
}
