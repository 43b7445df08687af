// Discs into planes of linear light, one tile at a time, four pixels at a time.

import { arg, argF } from './args';
import { beatAt } from './beat';
import { Discs, Mode, Size, Tiles } from './generated/words';
import { edged } from './generated/shapes';
import { blend, cover, unhidden } from './blend';
import { CLOSING, isHidden, openBlocks } from './hidden';
import { farToNear, nearToFar } from './order';

/**
 * `order` tells which entry comes when, where the mode is normal. w = t², t = edge (1 - d²/r²) from
 * 0 to 1: soft for edge 1, hard for more.
 */
// @inline
function discs(
  mode: i32,
  hidden: bool,
  args: usize,
  list: usize,
  order: usize,
  n: i32,
  x0: i32,
  y0: i32,
  thread: i32,
): void {
  const x1 = min(x0 + arg(args, Tiles.SPAN_W), arg(args, Tiles.WIDTH));
  const y1 = min(y0 + arg(args, Tiles.SPAN_H), arg(args, Tiles.HEIGHT));
  const stride = arg(args, Tiles.STRIDE);
  const red = <usize>arg(args, Tiles.PLANE);
  const green = <usize>arg(args, Tiles.PLANE + 1);
  const blue = <usize>arg(args, Tiles.PLANE + 2);
  const nearest = <usize>arg(args, Tiles.NEAREST);
  const soft = f32x4.splat(argF(args, Tiles.SOFT));
  const edge = argF(args, Discs.EDGE);
  const scale = argF(args, Tiles.SCALE);
  const ordered = mode == Mode.NORMAL || mode == Mode.OPAQUE;
  const closed = mode == Mode.OPAQUE ? openBlocks(args, thread) : 0;
  const steps = f32x4(0.5, 1.5, 2.5, 3.5);
  for (let i = 0; i < n; i++) {
    beatAt(i);
    const entry =
      list + <usize>(ordered ? load<i32>(order + ((<usize>i) << 2)) : i) * Size.DISC_BYTES;
    const x = load<f32>(entry) * scale;
    const y = load<f32>(entry, 4) * scale;
    const r = load<f32>(entry, 8) * scale;
    const inverse: f32 = 1 / (r * r);
    // Not harder than an edge of about one pixel.
    const hard = f32x4.splat(min(edge, max(<f32>1, r * 0.6)));
    const va = v128.load32_splat(entry, 12);
    const vr = v128.load32_splat(entry, 16);
    const vg = v128.load32_splat(entry, 20);
    const vb = v128.load32_splat(entry, 24);
    const vz = v128.load32_splat(entry, 28);
    const vi = f32x4.splat(inverse);
    // For small discs the square of the bounds costs less than a row's own.
    const small = r < 4;
    const columns0 = max(x0, <i32>max(<f32>0, x - r)) & ~3;
    const columns1 = min(x1 - 1, <i32>(x + r));
    const top = max(y0, <i32>max(<f32>0, y - r));
    const bottom = min(y1 - 1, <i32>(y + r));
    if (mode == Mode.OPAQUE) {
      if (columns1 < columns0 || bottom < top) continue;
      const front = load<f32>(entry, 28);
      if (
        isHidden(args, closed, front, columns0, top, columns1, bottom, x0, y0, (i & CLOSING) == 0)
      )
        continue;
    }
    for (let row = top; row <= bottom; row++) {
      const dy = <f32>row + 0.5 - y;
      const left = <f32>1 - dy * dy * inverse;
      if (left <= 0) continue;
      let from = columns0;
      let to = columns1;
      if (!small) {
        const half = r * sqrt<f32>(left);
        // Groups of four stay within the tile: a tile begins and ends at a multiple of four.
        from = max(x0, <i32>max(<f32>0, x - half)) & ~3;
        to = min(x1 - 1, <i32>(x + half));
      }
      const rest = f32x4.splat(left);
      const line = (<usize>(row * stride)) << 2;
      for (let column = from; column <= to; column += 4) {
        const dx = f32x4.add(f32x4.splat(<f32>column - x), steps);
        const inside = f32x4.sub(rest, f32x4.mul(f32x4.mul(dx, dx), vi));
        let w = edged(inside, hard);
        const at = line + ((<usize>column) << 2);
        if (mode == Mode.OPAQUE) {
          const before = f32x4.lt(vz, v128.load(nearest + at));
          const mask = v128.and(before, f32x4.ge(w, f32x4.splat(0.5)));
          cover(red + at, green + at, blue + at, nearest + at, mask, vz, vr, vg, vb);
          continue;
        }
        if (hidden) w = unhidden(w, v128.load(nearest + at), vz, soft);
        blend(mode, red + at, w, vr, va);
        blend(mode, green + at, w, vg, va);
        blend(mode, blue + at, w, vb, va);
      }
    }
  }
}

function drawHidden(
  mode: i32,
  args: usize,
  list: usize,
  order: usize,
  n: i32,
  x0: i32,
  y0: i32,
  thread: i32,
): void {
  if (mode == Mode.ADD) discs(Mode.ADD, true, args, list, order, n, x0, y0, thread);
  else if (mode == Mode.SCREEN) discs(Mode.SCREEN, true, args, list, order, n, x0, y0, thread);
  else if (mode == Mode.NORMAL) discs(Mode.NORMAL, true, args, list, order, n, x0, y0, thread);
  else if (mode == Mode.MULTIPLY) discs(Mode.MULTIPLY, true, args, list, order, n, x0, y0, thread);
  else if (mode == Mode.LIGHTEN) discs(Mode.LIGHTEN, true, args, list, order, n, x0, y0, thread);
  else discs(Mode.OPAQUE, true, args, list, order, n, x0, y0, thread);
}

/** Draws the discs of one tile: `n` entries of its list from `begin` on. */
export function drawDiscs(args: usize, begin: i32, n: i32, x0: i32, y0: i32, thread: i32): void {
  const list = <usize>arg(args, Tiles.LIST) + <usize>begin * Size.DISC_BYTES;
  const mode = arg(args, Tiles.MODE);
  const order = <usize>arg(args, Tiles.ORDER) + ((<usize>begin) << 2);
  if (mode == Mode.NORMAL || mode == Mode.OPAQUE) {
    for (let i = 0; i < n; i++) store<i32>(order + ((<usize>i) << 2), i);
  }
  if (mode == Mode.NORMAL) {
    farToNear(args, order, begin, n, list + 28, Size.DISC_BYTES, thread);
  } else if (mode == Mode.OPAQUE) {
    // What is hidden by what is nearer is not drawn.
    nearToFar(args, order, begin, n, list + 28, Size.DISC_BYTES, thread);
  }
  if (arg(args, Tiles.NEAREST)) drawHidden(mode, args, list, order, n, x0, y0, thread);
  else if (mode == Mode.ADD) discs(Mode.ADD, false, args, list, 0, n, x0, y0, thread);
  else if (mode == Mode.SCREEN) discs(Mode.SCREEN, false, args, list, 0, n, x0, y0, thread);
  else if (mode == Mode.NORMAL) discs(Mode.NORMAL, false, args, list, order, n, x0, y0, thread);
  else if (mode == Mode.MULTIPLY) discs(Mode.MULTIPLY, false, args, list, 0, n, x0, y0, thread);
  else discs(Mode.LIGHTEN, false, args, list, 0, n, x0, y0, thread);
}
