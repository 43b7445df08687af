// Triangles into planes of linear light. A corner has x, y in pixels, depth, light multiplied by
// opacity, and opacity.

import { arg, argF } from './args';
import { beatAt } from './beat';
import { Mode, Shape, Size, Tiles } from './generated/words';
import { blend, cover, unhidden } from './blend';
import { BAND_DEPTH, fillBand } from './bands';
import { edgeAt, fromEnd, lower, sideOf, slopeOf, upper, within } from './edges';
import { farToNear } from './order';

/** Bytes of a corner, and of a triangle: three corners, then its mean depth. */
export const CORNER: usize = 28;
export const TRIANGLE_DEPTH: usize = 84;

/** Fills one triangle within a tile. */
// @inline
export function fillTriangle(
  mode: i32,
  args: usize,
  a: usize,
  b: usize,
  c: usize,
  tx: i32,
  ty: i32,
): void {
  const scale = argF(args, Tiles.SCALE);
  const ax = load<f32>(a) * scale;
  const ay = load<f32>(a, 4) * scale;
  const bx = load<f32>(b) * scale;
  const by = load<f32>(b, 4) * scale;
  const cx = load<f32>(c) * scale;
  const cy = load<f32>(c, 4) * scale;
  // Twice the area with its sense; pixels inside an edge turned this way lie on its positive side.
  const area: f32 = (cx - ax) * (by - ay) - (cy - ay) * (bx - ax);
  if (!(abs<f32>(area) > 1e-6)) return;
  const x0 = max(tx, <i32>max(<f32>0, min(ax, min(bx, cx)) - 0.5)) & ~3;
  const x1 = min(
    min(tx + arg(args, Tiles.SPAN_W), arg(args, Tiles.WIDTH)) - 1,
    <i32>max(<f32>-1, max(ax, max(bx, cx)) + 0.5),
  );
  const y0 = max(ty, <i32>max(<f32>0, min(ay, min(by, cy)) - 0.5));
  const y1 = min(
    min(ty + arg(args, Tiles.SPAN_H), arg(args, Tiles.HEIGHT)) - 1,
    <i32>max(<f32>-1, max(ay, max(by, cy)) + 0.5),
  );
  if (x1 < x0 || y1 < y0) return;
  const stride = arg(args, Tiles.STRIDE);
  const red = <usize>arg(args, Tiles.PLANE);
  const green = <usize>arg(args, Tiles.PLANE + 1);
  const blue = <usize>arg(args, Tiles.PLANE + 2);
  const nearest = <usize>arg(args, Tiles.NEAREST);
  const soft = f32x4.splat(argF(args, Tiles.SOFT));
  const inverse = arg(args, Tiles.INVERSE) != 0;
  const deep = mode == Mode.OPAQUE || nearest != 0;
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  const steps = f32x4(0.5, 1.5, 2.5, 3.5);
  const part = f32x4.splat(1 / area);
  // Each edge from one end of the two, see edges.ts.
  const swapAB = fromEnd(ax, ay, bx, by);
  const swapBC = fromEnd(bx, by, cx, cy);
  const swapCA = fromEnd(cx, cy, ax, ay);
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
  const sideAB = sideOf(ay, by, area);
  const sideBC = sideOf(by, cy, area);
  const sideCA = sideOf(cy, ay, area);
  const slopeAB = slopeOf(ax, ay, bx, by);
  const slopeBC = slopeOf(bx, by, cx, cy);
  const slopeCA = slopeOf(cx, cy, ax, ay);
  for (let row = y0; row <= y1; row++) {
    const py = <f32>row + 0.5;
    const line = (<usize>(row * stride)) << 2;
    // The stretch of the row that can be inside, a pixel more to each side.
    let low = lower(<f32>x0, sideAB, py, ax, ay, slopeAB);
    let high = upper(<f32>x1, sideAB, py, ax, ay, slopeAB);
    low = lower(low, sideBC, py, bx, by, slopeBC);
    high = upper(high, sideBC, py, bx, by, slopeBC);
    low = lower(low, sideCA, py, cx, cy, slopeCA);
    high = upper(high, sideCA, py, cx, cy, slopeCA);
    if (!(low <= high)) continue;
    const rowAB = (py - oABy) * dABx;
    const rowBC = (py - oBCy) * dBCx;
    const rowCA = (py - oCAy) * dCAx;
    const first = max(x0, (<i32>low) & ~3);
    const last = min(x1, <i32>high);
    for (let column = first; column <= last; column += 4) {
      const px = f32x4.add(f32x4.splat(<f32>column), steps);
      const eab = edgeAt(px, oABx, dABy, rowAB);
      const ebc = edgeAt(px, oBCx, dBCy, rowBC);
      const eca = edgeAt(px, oCAx, dCAy, rowCA);
      let mask = v128.and(within(eab, wasAB), within(ebc, wasBC));
      mask = v128.and(mask, within(eca, wasCA));
      if (!v128.any_true(mask)) continue;
      // Shares of the corners; the sides were worked out either way round.
      const wc = f32x4.abs(f32x4.mul(eab, part));
      const wa = f32x4.abs(f32x4.mul(ebc, part));
      const wb = f32x4.pmax(f32x4.sub(f32x4.sub(one, wa), wc), zero);
      const at = line + ((<usize>column) << 2);
      let depth = zero;
      if (deep) {
        const straight = blended(a, b, c, 8, wa, wb, wc);
        depth = inverse ? f32x4.div(one, straight) : straight;
      }
      const cr = blended(a, b, c, 12, wa, wb, wc);
      const cg = blended(a, b, c, 16, wa, wb, wc);
      const cb = blended(a, b, c, 20, wa, wb, wc);
      if (mode == Mode.OPAQUE) {
        mask = v128.and(mask, f32x4.lt(depth, v128.load(nearest + at)));
        cover(red + at, green + at, blue + at, nearest + at, mask, depth, cr, cg, cb);
        continue;
      }
      let weight = v128.and(one, mask);
      if (nearest) weight = unhidden(weight, v128.load(nearest + at), depth, soft);
      const alpha = blended(a, b, c, 24, wa, wb, wc);
      blend(mode, red + at, weight, cr, alpha);
      blend(mode, green + at, weight, cg, alpha);
      blend(mode, blue + at, weight, cb, alpha);
    }
  }
}

// @inline
function blended(a: usize, b: usize, c: usize, at: usize, wa: v128, wb: v128, wc: v128): v128 {
  const va = f32x4.mul(v128.load32_splat(a + at), wa);
  const vb = f32x4.mul(v128.load32_splat(b + at), wb);
  return f32x4.add(f32x4.add(va, vb), f32x4.mul(v128.load32_splat(c + at), wc));
}

// @inline
function items(mode: i32, args: usize, list: usize, n: i32, x: i32, y: i32): void {
  const base = <usize>arg(args, Tiles.ITEMS);
  const triangles = arg(args, Tiles.SHAPE) == Shape.TRIANGLES;
  for (let k = 0; k < n; k++) {
    beatAt(k);
    const i = <usize>load<i32>(list + ((<usize>k) << 2));
    if (triangles) {
      const item = base + i * Size.TRIANGLE_BYTES;
      fillTriangle(mode, args, item, item + CORNER, item + 2 * CORNER, x, y);
    } else fillBand(mode, args, base + i * Size.BAND_BYTES, x, y);
  }
}

/** Draws the triangles or bands of one tile: `n` numbers of its list from `begin` on. */
export function drawTriangles(args: usize, begin: i32, n: i32, x: i32, y: i32, thread: i32): void {
  const list = <usize>arg(args, Tiles.LIST) + ((<usize>begin) << 2);
  const mode = arg(args, Tiles.MODE);
  if (mode == Mode.NORMAL) {
    const triangles = arg(args, Tiles.SHAPE) == Shape.TRIANGLES;
    const depths = <usize>arg(args, Tiles.ITEMS) + (triangles ? TRIANGLE_DEPTH : BAND_DEPTH);
    farToNear(
      args,
      list,
      begin,
      n,
      depths,
      triangles ? Size.TRIANGLE_BYTES : Size.BAND_BYTES,
      thread,
    );
    items(Mode.NORMAL, args, list, n, x, y);
  } else if (mode == Mode.ADD) items(Mode.ADD, args, list, n, x, y);
  else if (mode == Mode.SCREEN) items(Mode.SCREEN, args, list, n, x, y);
  else if (mode == Mode.MULTIPLY) items(Mode.MULTIPLY, args, list, n, x, y);
  else if (mode == Mode.LIGHTEN) items(Mode.LIGHTEN, args, list, n, x, y);
  else items(Mode.OPAQUE, args, list, n, x, y);
}
