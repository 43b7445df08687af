// Discs into planes of linear light, one tile at a time, four pixels at a time.

import {
  arg,
  argF,
  EDGE,
  ENTRY,
  HEIGHT,
  LIST,
  MODE,
  ORDER,
  PLANE_B,
  PLANE_G,
  PLANE_R,
  SCRATCH,
  SPARE,
  STARTS,
  STRIDE,
  TILE_H,
  TILE_W,
  TILES_X,
  WIDTH,
} from './bins';
import { farToNear } from './order';

const ADD: i32 = 0;
const SCREEN: i32 = 1;
const NORMAL: i32 = 2;

/**
 * One plane at four pixels. w: the disc's weight there; c: its light, multiplied by opacity;
 * a: its opacity. Add d + cw; screen d + s (1 - d) with s = cw up to 1; normal d (1 - aw) + cw.
 */
@inline function blend(mode: i32, to: usize, w: v128, c: v128, a: v128): void {
  const d = v128.load(to);
  const one = f32x4.splat(1);
  if (mode == ADD) {
    v128.store(to, f32x4.add(d, f32x4.mul(c, w)));
  } else if (mode == SCREEN) {
    const s = f32x4.pmin(f32x4.mul(c, w), one);
    v128.store(to, f32x4.add(d, f32x4.mul(s, f32x4.sub(one, d))));
  } else {
    const keep = f32x4.sub(one, f32x4.mul(a, w));
    v128.store(to, f32x4.add(f32x4.mul(d, keep), f32x4.mul(c, w)));
  }
}

/** `order` tells which entry comes when; 0 for the order of the list. w = t², t = edge (1 - d²/r²) from 0 to 1: soft for edge 1, hard for more. */
@inline function discs(
  mode: i32,
  args: usize,
  list: usize,
  order: usize,
  n: i32,
  x0: i32,
  y0: i32,
): void {
  const x1 = min(x0 + TILE_W, arg(args, WIDTH));
  const y1 = min(y0 + TILE_H, arg(args, HEIGHT));
  const stride = arg(args, STRIDE);
  const red = <usize>arg(args, PLANE_R);
  const green = <usize>arg(args, PLANE_G);
  const blue = <usize>arg(args, PLANE_B);
  const edge = argF(args, EDGE);
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  const steps = f32x4(0.5, 1.5, 2.5, 3.5);
  for (let i = 0; i < n; i++) {
    const entry = list + <usize>(mode == NORMAL ? load<i32>(order + (<usize>i << 2)) : i) * ENTRY;
    const x = load<f32>(entry);
    const y = load<f32>(entry, 4);
    const r = load<f32>(entry, 8);
    const inverse: f32 = 1 / (r * r);
    // Not harder than an edge of about one pixel.
    const hard = f32x4.splat(min(edge, max(<f32>1, r * 0.6)));
    const va = v128.load32_splat(entry, 12);
    const vr = v128.load32_splat(entry, 16);
    const vg = v128.load32_splat(entry, 20);
    const vb = v128.load32_splat(entry, 24);
    const vi = f32x4.splat(inverse);
    // For small discs the square of the bounds costs less than a row's own.
    const small = r < 4;
    const columns0 = max(x0, <i32>max(<f32>0, x - r)) & ~3;
    const columns1 = min(x1 - 1, <i32>(x + r));
    const top = max(y0, <i32>max(<f32>0, y - r));
    const bottom = min(y1 - 1, <i32>(y + r));
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
      const line = <usize>(row * stride) << 2;
      for (let column = from; column <= to; column += 4) {
        const dx = f32x4.add(f32x4.splat(<f32>column - x), steps);
        const inside = f32x4.sub(rest, f32x4.mul(f32x4.mul(dx, dx), vi));
        const t = f32x4.pmin(f32x4.mul(f32x4.pmax(inside, zero), hard), one);
        const w = f32x4.mul(t, t);
        const at = line + (<usize>column << 2);
        blend(mode, red + at, w, vr, va);
        blend(mode, green + at, w, vg, va);
        blend(mode, blue + at, w, vb, va);
      }
    }
  }
}

/** Draws the discs of one tile. */
export function drawTile(tile: i32, args: usize, thread: i32): void {
  const starts = <usize>arg(args, STARTS) + (<usize>tile << 2);
  const begin = load<i32>(starts);
  const n = load<i32>(starts, 4) - begin;
  if (n == 0) return;
  const list = <usize>arg(args, LIST) + <usize>begin * ENTRY;
  const tilesX = arg(args, TILES_X);
  const x0 = (tile % tilesX) * TILE_W;
  const y0 = (tile / tilesX) * TILE_H;
  const mode = arg(args, MODE);
  if (mode == ADD) {
    discs(ADD, args, list, 0, n, x0, y0);
  } else if (mode == SCREEN) {
    discs(SCREEN, args, list, 0, n, x0, y0);
  } else {
    const order = <usize>arg(args, ORDER) + (<usize>begin << 2);
    const spare = <usize>arg(args, SPARE) + (<usize>begin << 2);
    const bins = <usize>arg(args, SCRATCH) + (<usize>thread << 13);
    farToNear(order, spare, n, list, bins);
    discs(NORMAL, args, list, order, n, x0, y0);
  }
}
