// Triangles and bands into planes of linear light. A corner has x, y in pixels, depth, how far
// across a band it is (-1 to 1), light multiplied by opacity, and opacity.

import {
  arg,
  argF,
  HEIGHT,
  INVERSE,
  ITEMS,
  LIST,
  MODE,
  NEAREST,
  ORDER,
  PLANE_B,
  PLANE_G,
  PLANE_R,
  SCRATCH,
  SHAPE,
  SOFT,
  STRIDE,
  TRIANGLES,
  WIDTH,
} from './args';
import { TILE_H, TILE_W } from './bins';
import { ADD, blend, cover, LIGHTEN, MULTIPLY, NORMAL, OPAQUE, SCREEN, unhidden } from './blend';
import { farToNear } from './order';

/** Bytes of a corner, and of a triangle: three corners, then its mean depth. */
export const CORNER: usize = 32;
export const TRIANGLE: usize = 100;
const TRIANGLE_DEPTH: usize = 96;
/**
 * Bytes of a band: its two ends as x, y, depth, opacity, red, green, blue, and half its width as a
 * way in pixels; three numbers of its shading across; its edge factor; its mean depth.
 */
export const BAND: usize = 96;
export const END: usize = 36;
export const SHADE: usize = 72;
const BAND_DEPTH: usize = 88;

/** Where a row at `y` crosses the line from a to b, for an edge that is not level. */
@inline function crossing(y: f32, ax: f32, ay: f32, bx: f32, by: f32): f32 {
  return ax + ((y - ay) * (bx - ax)) / (by - ay);
}

/** Which of four pixels are within an edge: those on it belong to the triangle on one side. */
@inline function within(e: v128, positive: bool): v128 {
  return positive ? f32x4.ge(e, f32x4.splat(0)) : f32x4.lt(e, f32x4.splat(0));
}

/** Fills one triangle within a tile. `shade`: address of the band's numbers, 0 for none. */
@inline function fill(
  mode: i32,
  banded: bool,
  args: usize,
  a: usize,
  b: usize,
  c: usize,
  shade: usize,
  tx: i32,
  ty: i32,
): void {
  const ax = load<f32>(a);
  const ay = load<f32>(a, 4);
  const bx = load<f32>(b);
  const by = load<f32>(b, 4);
  const cx = load<f32>(c);
  const cy = load<f32>(c, 4);
  // Twice the area with its sense; pixels inside an edge turned this way lie on its positive side.
  const area: f32 = (cx - ax) * (by - ay) - (cy - ay) * (bx - ax);
  if (!(abs<f32>(area) > 1e-6)) return;
  const x0 = max(tx, <i32>max(<f32>0, min(ax, min(bx, cx)) - 0.5)) & ~3;
  const x1 = min(min(tx + TILE_W, arg(args, WIDTH)) - 1, <i32>max(<f32>-1, max(ax, max(bx, cx)) + 0.5));
  const y0 = max(ty, <i32>max(<f32>0, min(ay, min(by, cy)) - 0.5));
  const y1 = min(min(ty + TILE_H, arg(args, HEIGHT)) - 1, <i32>max(<f32>-1, max(ay, max(by, cy)) + 0.5));
  if (x1 < x0 || y1 < y0) return;
  const stride = arg(args, STRIDE);
  const red = <usize>arg(args, PLANE_R);
  const green = <usize>arg(args, PLANE_G);
  const blue = <usize>arg(args, PLANE_B);
  const nearest = <usize>arg(args, NEAREST);
  const soft = f32x4.splat(argF(args, SOFT));
  const inverse = arg(args, INVERSE) != 0;
  const edge = banded ? v128.load32_splat(shade, 12) : f32x4.splat(0);
  const s0 = banded ? v128.load32_splat(shade) : f32x4.splat(1);
  const s1 = banded ? v128.load32_splat(shade, 4) : f32x4.splat(0);
  const s2 = banded ? v128.load32_splat(shade, 8) : f32x4.splat(0);
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  const steps = f32x4(0.5, 1.5, 2.5, 3.5);
  const part = f32x4.splat(1 / area);
  // Which side of an edge a pixel is on is worked out from the same end, and so to the same number,
  // in both triangles that share it.
  const swapAB = bx < ax || (bx == ax && by < ay);
  const swapBC = cx < bx || (cx == bx && cy < by);
  const swapCA = ax < cx || (ax == cx && ay < cy);
  const oABx = swapAB ? bx : ax;
  const oABy = swapAB ? by : ay;
  const oBCx = swapBC ? cx : bx;
  const oBCy = swapBC ? cy : by;
  const oCAx = swapCA ? ax : cx;
  const oCAy = swapCA ? ay : cy;
  const dABx = swapAB ? ax - bx : bx - ax;
  const dABy = swapAB ? ay - by : by - ay;
  const dBCx = swapBC ? bx - cx : cx - bx;
  const dBCy = swapBC ? by - cy : cy - by;
  const dCAx = swapCA ? cx - ax : ax - cx;
  const dCAy = swapCA ? cy - ay : ay - cy;
  const wasAB = area > 0 != swapAB;
  const wasBC = area > 0 != swapBC;
  const wasCA = area > 0 != swapCA;
  const edgeAB = (by - ay) * area;
  const edgeBC = (cy - by) * area;
  const edgeCA = (ay - cy) * area;
  for (let row = y0; row <= y1; row++) {
    const py = <f32>row + 0.5;
    const line = <usize>(row * stride) << 2;
    // The stretch of the row that can be inside, a pixel more to each side.
    let low = <f32>x0;
    let high = <f32>x1;
    if (edgeAB > 0) low = max(low, crossing(py, ax, ay, bx, by) - 1.5);
    else if (edgeAB < 0) high = min(high, crossing(py, ax, ay, bx, by) + 1.5);
    if (edgeBC > 0) low = max(low, crossing(py, bx, by, cx, cy) - 1.5);
    else if (edgeBC < 0) high = min(high, crossing(py, bx, by, cx, cy) + 1.5);
    if (edgeCA > 0) low = max(low, crossing(py, cx, cy, ax, ay) - 1.5);
    else if (edgeCA < 0) high = min(high, crossing(py, cx, cy, ax, ay) + 1.5);
    if (!(low <= high)) continue;
    const rowAB = f32x4.splat((py - oABy) * dABx);
    const rowBC = f32x4.splat((py - oBCy) * dBCx);
    const rowCA = f32x4.splat((py - oCAy) * dCAx);
    const first = max(x0, <i32>low & ~3);
    const last = min(x1, <i32>high);
    for (let column = first; column <= last; column += 4) {
      const px = f32x4.add(f32x4.splat(<f32>column), steps);
      const eab = f32x4.sub(f32x4.mul(f32x4.sub(px, f32x4.splat(oABx)), f32x4.splat(dABy)), rowAB);
      const ebc = f32x4.sub(f32x4.mul(f32x4.sub(px, f32x4.splat(oBCx)), f32x4.splat(dBCy)), rowBC);
      const eca = f32x4.sub(f32x4.mul(f32x4.sub(px, f32x4.splat(oCAx)), f32x4.splat(dCAy)), rowCA);
      let mask = v128.and(within(eab, wasAB), within(ebc, wasBC));
      mask = v128.and(mask, within(eca, wasCA));
      if (!v128.any_true(mask)) continue;
      // Shares of the corners; the sides were worked out either way round.
      const wc = f32x4.abs(f32x4.mul(eab, part));
      const wa = f32x4.abs(f32x4.mul(ebc, part));
      const wb = f32x4.pmax(f32x4.sub(f32x4.sub(one, wa), wc), zero);
      const at = line + (<usize>column << 2);
      const straight = blended(a, b, c, 8, wa, wb, wc);
      const depth = inverse ? f32x4.div(one, straight) : straight;
      let cr = blended(a, b, c, 16, wa, wb, wc);
      let cg = blended(a, b, c, 20, wa, wb, wc);
      let cb = blended(a, b, c, 24, wa, wb, wc);
      let weight = one;
      if (banded) {
        const across = blended(a, b, c, 12, wa, wb, wc);
        const square = f32x4.mul(across, across);
        const t = f32x4.pmin(f32x4.mul(f32x4.pmax(f32x4.sub(one, square), zero), edge), one);
        weight = f32x4.mul(t, t);
        const lit = f32x4.add(s0, f32x4.add(f32x4.mul(s1, across), f32x4.mul(s2, square)));
        cr = f32x4.mul(cr, lit);
        cg = f32x4.mul(cg, lit);
        cb = f32x4.mul(cb, lit);
      }
      if (mode == OPAQUE) {
        mask = v128.and(mask, f32x4.lt(depth, v128.load(nearest + at)));
        if (banded) mask = v128.and(mask, f32x4.ge(weight, f32x4.splat(0.5)));
        cover(red + at, mask, cr);
        cover(green + at, mask, cg);
        cover(blue + at, mask, cb);
        cover(nearest + at, mask, depth);
        continue;
      }
      weight = v128.and(weight, mask);
      if (nearest) weight = unhidden(weight, v128.load(nearest + at), depth, soft);
      const alpha = blended(a, b, c, 28, wa, wb, wc);
      blend(mode, red + at, weight, cr, alpha);
      blend(mode, green + at, weight, cg, alpha);
      blend(mode, blue + at, weight, cb, alpha);
    }
  }
}

@inline function blended(a: usize, b: usize, c: usize, at: usize, wa: v128, wb: v128, wc: v128): v128 {
  const va = f32x4.mul(v128.load32_splat(a + at), wa);
  const vb = f32x4.mul(v128.load32_splat(b + at), wb);
  return f32x4.add(f32x4.add(va, vb), f32x4.mul(v128.load32_splat(c + at), wc));
}

/** One corner of a band at `to`: its end at `from`, `way` times half its width aside. */
@inline function corner(to: usize, from: usize, way: f32, inverse: bool): void {
  const depth = load<f32>(from, 8);
  store<f32>(to, load<f32>(from) + way * load<f32>(from, 28));
  store<f32>(to, load<f32>(from, 4) + way * load<f32>(from, 32), 4);
  store<f32>(to, inverse ? 1 / depth : depth, 8);
  store<f32>(to, way, 12);
  store<f32>(to, load<f32>(from, 16), 16);
  store<f32>(to, load<f32>(from, 20), 20);
  store<f32>(to, load<f32>(from, 24), 24);
  store<f32>(to, load<f32>(from, 12), 28);
}

@inline function items(mode: i32, args: usize, list: usize, n: i32, x: i32, y: i32, room: usize): void {
  const base = <usize>arg(args, ITEMS);
  const triangles = arg(args, SHAPE) == TRIANGLES;
  const inverse = arg(args, INVERSE) != 0;
  for (let k = 0; k < n; k++) {
    const i = <usize>load<i32>(list + (<usize>k << 2));
    if (triangles) {
      const item = base + i * TRIANGLE;
      fill(mode, false, args, item, item + CORNER, item + 2 * CORNER, 0, x, y);
    } else {
      const item = base + i * BAND;
      corner(room, item, -1, inverse);
      corner(room + CORNER, item, 1, inverse);
      corner(room + 2 * CORNER, item + END, -1, inverse);
      corner(room + 3 * CORNER, item + END, 1, inverse);
      const shade = item + SHADE;
      fill(mode, true, args, room, room + CORNER, room + 2 * CORNER, shade, x, y);
      fill(mode, true, args, room + 2 * CORNER, room + CORNER, room + 3 * CORNER, shade, x, y);
    }
  }
}

/** Draws the triangles or bands of one tile: `n` numbers of its list from `begin` on. */
export function drawTriangles(args: usize, begin: i32, n: i32, x: i32, y: i32, thread: i32): void {
  const list = <usize>arg(args, LIST) + (<usize>begin << 2);
  const scratch = <usize>arg(args, SCRATCH) + (<usize>thread << 13);
  const mode = arg(args, MODE);
  if (mode == NORMAL) {
    const triangles = arg(args, SHAPE) == TRIANGLES;
    const depths = <usize>arg(args, ITEMS) + (triangles ? TRIANGLE_DEPTH : BAND_DEPTH);
    farToNear(args, list, begin, n, depths, triangles ? TRIANGLE : BAND, thread);
    items(NORMAL, args, list, n, x, y, scratch);
  } else if (mode == ADD) items(ADD, args, list, n, x, y, scratch);
  else if (mode == SCREEN) items(SCREEN, args, list, n, x, y, scratch);
  else if (mode == MULTIPLY) items(MULTIPLY, args, list, n, x, y, scratch);
  else if (mode == LIGHTEN) items(LIGHTEN, args, list, n, x, y, scratch);
  else items(OPAQUE, args, list, n, x, y, scratch);
}
