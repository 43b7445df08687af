// Whether something is behind what its tile has already, where nearer things have come before it.

import { arg } from './args';
import { Tiles } from './generated/words';

/** Samples along a block: what is behind all of a block's samples is not looked at again. */
const BLOCK: i32 = 16;
/** Of so many things (less one, a power of two) one that is hidden tries to close the blocks it is in. */
export const CLOSING: i32 = 7;
/** Bytes of a thread's scratch before those that tell which blocks are closed. */
const BEFORE: usize = 256;

/** A byte for each block of a tile, none of them closed; in a thread's scratch, behind what others use. */
export function openBlocks(args: usize, thread: i32): usize {
  const closed = <usize>arg(args, Tiles.SCRATCH) + ((<usize>thread) << 13) + BEFORE;
  const blocks = (arg(args, Tiles.SPAN_W) / BLOCK) * max(1, arg(args, Tiles.SPAN_H) / BLOCK);
  memory.fill(closed, 0, <usize>blocks);
  return closed;
}

/**
 * Whether all samples from (x0, y0) to (x1, y1) have something nearer than `front`.
 *
 * @param closed which blocks of the tile, that begins at (x, y), are known to have
 * @param closing whether blocks that have it now are closed
 */
export function isHidden(
  args: usize,
  closed: usize,
  front: f32,
  x0: i32,
  y0: i32,
  x1: i32,
  y1: i32,
  x: i32,
  y: i32,
  closing: bool,
): bool {
  const across = arg(args, Tiles.SPAN_W) / BLOCK;
  const bx0 = (x0 - x) / BLOCK;
  const bx1 = (x1 - x) / BLOCK;
  const by0 = (y0 - y) / BLOCK;
  const by1 = (y1 - y) / BLOCK;
  for (let by = by0; by <= by1; by++) {
    for (let bx = bx0; bx <= bx1; bx++) {
      if (load<u8>(closed + by * across + bx)) continue;
      const left = x + bx * BLOCK;
      const top = y + by * BLOCK;
      const behind = isBehind(
        args,
        front,
        max(x0, left),
        max(y0, top),
        min(x1, left + BLOCK - 1),
        min(y1, top + BLOCK - 1),
      );
      if (!behind) return false;
    }
  }
  if (!closing) return true;
  // Nearer ones have gone before: what is behind all of a block now stays behind it.
  for (let by = by0; by <= by1; by++) {
    for (let bx = bx0; bx <= bx1; bx++) {
      if (load<u8>(closed + by * across + bx)) continue;
      const left = x + bx * BLOCK;
      const top = y + by * BLOCK;
      if (isBehind(args, front, left, top, left + BLOCK - 1, top + BLOCK - 1)) {
        store<u8>(closed + by * across + bx, 1);
      }
    }
  }
  return true;
}

function isBehind(args: usize, front: f32, x0: i32, y0: i32, x1: i32, y1: i32): bool {
  const nearest = <usize>arg(args, Tiles.NEAREST);
  const stride = arg(args, Tiles.STRIDE);
  const depth = f32x4.splat(front);
  for (let row = y0; row <= y1; row++) {
    const line = nearest + ((<usize>(row * stride)) << 2);
    for (let column = x0 & ~3; column <= x1; column += 4) {
      const there = v128.load(line + ((<usize>column) << 2));
      if (v128.any_true(f32x4.gt(there, depth))) return false;
    }
  }
  return true;
}
