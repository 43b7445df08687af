// Opaque copies of a mesh within one tile: near to far, so that what is hidden costs next to nothing.

import { arg, argF } from './args';
import { beatAt } from './beat';
import { drawCopy } from './copyFaces';
import { Meshes, Pixels, Size, Tiles } from './generated/words';
import { CLOSING, isHidden, openBlocks } from './hidden';
import { isHeavy } from './levels';
import { nearToFar } from './order';
import { drawPoint } from './points';

/** Where a list has a copy's number, behind its bounds and how near it comes. */
const FRONT: usize = 16;
const NUMBER: usize = 20;

/** Draws the copies of one tile: `n` numbers of its list from `begin` on. */
export function drawCopies(args: usize, begin: i32, n: i32, x: i32, y: i32, thread: i32): void {
  const list = <usize>arg(args, Tiles.LIST) + <usize>begin * Size.COPY_BYTES;
  const whole = <usize>arg(args, Meshes.WHOLE);
  const order = <usize>arg(args, Tiles.ORDER) + ((<usize>begin) << 2);
  for (let j = 0; j < n; j++) store<i32>(order + ((<usize>j) << 2), j);
  nearToFar(args, order, begin, n, list + FRONT, Size.COPY_BYTES, thread);
  // Behind the sort its bins are free: for a triangle, and for which blocks are closed.
  const corners = <usize>arg(args, Tiles.SCRATCH) + ((<usize>thread) << 13);
  const closed = openBlocks(args, thread);
  const k = argF(args, Tiles.SCALE);
  const right = min(x + arg(args, Tiles.SPAN_W), arg(args, Tiles.WIDTH)) - 1;
  const bottom = min(y + arg(args, Tiles.SPAN_H), arg(args, Tiles.HEIGHT)) - 1;
  for (let j = 0; j < n; j++) {
    beatAt(j);
    const entry = list + <usize>load<i32>(order + ((<usize>j) << 2)) * Size.COPY_BYTES;
    const sx = load<f32>(entry);
    const sy = load<f32>(entry, 4);
    const ex = load<f32>(entry, 8);
    const ey = load<f32>(entry, 12);
    const x0 = max(x, <i32>max<f32>(0, (sx - ex) * k));
    const x1 = min(right, <i32>((sx + ex) * k));
    const y0 = max(y, <i32>max<f32>(0, (sy - ey) * k));
    const y1 = min(bottom, <i32>((sy + ey) * k));
    if (x1 < x0 || y1 < y0) continue;
    if (isHidden(args, closed, load<f32>(entry, FRONT), x0, y0, x1, y1, x, y, (j & CLOSING) == 0))
      continue;
    const size: f32 = max(ex, ey) * 2;
    const copy = whole + <usize>load<i32>(entry, NUMBER) * Size.WHOLE_BYTES;
    if (size <= Pixels.POINT) drawPoint(args, copy, entry, corners, x, y, right, bottom);
    else if (!isHeavy(args, size)) drawCopy(args, copy, size, corners, x, y, right, bottom);
  }
}
