// Bands into planes of linear light: each is a quad of two triangles, filled in one pass, since what
// stands at its ends is the same on both sides.

import { arg, argF } from './args';
import { Mode, Tiles } from './generated/words';
import { edged } from './generated/shapes';
import { blend, cover, unhidden } from './blend';
import { edgeAt, fromEnd, lower, sideOf, slopeOf, upper, within } from './edges';

/**
 * Bytes of a band: its two ends as x, y, depth, opacity, red, green, blue, and half its width as a
 * way in pixels; three numbers of its shading across; its edge factor; its mean depth.
 */
export const END: usize = 36;
export const SHADE: usize = 72;
export const BAND_DEPTH: usize = 88;

/** Values at one end of a band, and their differences to the other. */
// @inline
function from(band: usize, at: usize): v128 {
  return v128.load32_splat(band + at);
}

// @inline
function more(band: usize, at: usize): v128 {
  return f32x4.sub(v128.load32_splat(band + END + at), v128.load32_splat(band + at));
}

/**
 * Fills one band within a tile. Its corners: a and b at the first end, c and d at the second, b and d
 * on the side where `across` is 1. The triangles are abc and cbd.
 */
// @inline
export function fillBand(mode: i32, args: usize, band: usize, tx: i32, ty: i32): void {
  const scale = argF(args, Tiles.SCALE);
  const ox = load<f32>(band, 28) * scale;
  const oy = load<f32>(band, 32) * scale;
  const qx = load<f32>(band + END, 28) * scale;
  const qy = load<f32>(band + END, 32) * scale;
  const ax = load<f32>(band) * scale - ox;
  const ay = load<f32>(band, 4) * scale - oy;
  const bx = load<f32>(band) * scale + ox;
  const by = load<f32>(band, 4) * scale + oy;
  const cx = load<f32>(band + END) * scale - qx;
  const cy = load<f32>(band + END, 4) * scale - qy;
  const dx = load<f32>(band + END) * scale + qx;
  const dy = load<f32>(band + END, 4) * scale + qy;
  // Twice the areas with their sense; pixels inside an edge turned this way lie on its positive side.
  const first: f32 = (cx - ax) * (by - ay) - (cy - ay) * (bx - ax);
  const second: f32 = (dx - cx) * (by - cy) - (dy - cy) * (bx - cx);
  const isFirst = abs<f32>(first) > 1e-6;
  const isSecond = abs<f32>(second) > 1e-6;
  if (!isFirst && !isSecond) return;
  const left = min(min(ax, bx), min(cx, dx));
  const right = max(max(ax, bx), max(cx, dx));
  const top = min(min(ay, by), min(cy, dy));
  const bottom = max(max(ay, by), max(cy, dy));
  const x0 = max(tx, <i32>max(<f32>0, left - 0.5)) & ~3;
  const x1 = min(
    min(tx + arg(args, Tiles.SPAN_W), arg(args, Tiles.WIDTH)) - 1,
    <i32>max(<f32>-1, right + 0.5),
  );
  const y0 = max(ty, <i32>max(<f32>0, top - 0.5));
  const y1 = min(
    min(ty + arg(args, Tiles.SPAN_H), arg(args, Tiles.HEIGHT)) - 1,
    <i32>max(<f32>-1, bottom + 0.5),
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
  const edge = v128.load32_splat(band + SHADE, 12);
  const s0 = v128.load32_splat(band + SHADE);
  const s1 = v128.load32_splat(band + SHADE, 4);
  const s2 = v128.load32_splat(band + SHADE, 8);
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  const steps = f32x4(0.5, 1.5, 2.5, 3.5);
  const partFirst = f32x4.splat(isFirst ? 1 / first : 0);
  const partSecond = f32x4.splat(isSecond ? 1 / second : 0);
  const onlyFirst = i32x4.splat(isFirst ? -1 : 0);
  const onlySecond = i32x4.splat(isSecond ? -1 : 0);
  // Each edge from one end of the two, see edges.ts.
  const endAB = fromEnd(ax, ay, bx, by);
  const endBC = fromEnd(bx, by, cx, cy);
  const endCA = fromEnd(cx, cy, ax, ay);
  const endBD = fromEnd(bx, by, dx, dy);
  const endDC = fromEnd(dx, dy, cx, cy);
  const xAB = endAB ? bx : ax;
  const yAB = endAB ? by : ay;
  const wAB = endAB ? ax - bx : bx - ax;
  const hAB = endAB ? ay - by : by - ay;
  const xBC = endBC ? cx : bx;
  const yBC = endBC ? cy : by;
  const wBC = endBC ? bx - cx : cx - bx;
  const hBC = endBC ? by - cy : cy - by;
  const xCA = endCA ? ax : cx;
  const yCA = endCA ? ay : cy;
  const wCA = endCA ? cx - ax : ax - cx;
  const hCA = endCA ? cy - ay : ay - cy;
  const xBD = endBD ? dx : bx;
  const yBD = endBD ? dy : by;
  const wBD = endBD ? bx - dx : dx - bx;
  const hBD = endBD ? by - dy : dy - by;
  const xDC = endDC ? cx : dx;
  const yDC = endDC ? cy : dy;
  const wDC = endDC ? dx - cx : cx - dx;
  const hDC = endDC ? dy - cy : cy - dy;
  const slopeAB = slopeOf(ax, ay, bx, by);
  const slopeBC = slopeOf(bx, by, cx, cy);
  const slopeCA = slopeOf(cx, cy, ax, ay);
  const slopeBD = slopeOf(bx, by, dx, dy);
  const slopeDC = slopeOf(dx, dy, cx, cy);
  const sideAB = sideOf(ay, by, first);
  const sideBC = sideOf(by, cy, first);
  const sideCA = sideOf(cy, ay, first);
  const sideCB = sideOf(cy, by, second);
  const sideBD = sideOf(by, dy, second);
  const sideDC = sideOf(dy, cy, second);
  for (let row = y0; row <= y1; row++) {
    const py = <f32>row + 0.5;
    const line = (<usize>(row * stride)) << 2;
    // The stretches of the row that can be inside, a pixel more to each side.
    let low = <f32>x1 + 1;
    let high = <f32>x0 - 1;
    if (isFirst) {
      let l = lower(<f32>x0, sideAB, py, ax, ay, slopeAB);
      let h = upper(<f32>x1, sideAB, py, ax, ay, slopeAB);
      l = lower(l, sideBC, py, bx, by, slopeBC);
      h = upper(h, sideBC, py, bx, by, slopeBC);
      l = lower(l, sideCA, py, cx, cy, slopeCA);
      h = upper(h, sideCA, py, cx, cy, slopeCA);
      if (l <= h) {
        low = min(low, l);
        high = max(high, h);
      }
    }
    if (isSecond) {
      let l = lower(<f32>x0, sideCB, py, bx, by, slopeBC);
      let h = upper(<f32>x1, sideCB, py, bx, by, slopeBC);
      l = lower(l, sideBD, py, bx, by, slopeBD);
      h = upper(h, sideBD, py, bx, by, slopeBD);
      l = lower(l, sideDC, py, dx, dy, slopeDC);
      h = upper(h, sideDC, py, dx, dy, slopeDC);
      if (l <= h) {
        low = min(low, l);
        high = max(high, h);
      }
    }
    if (!(low <= high)) continue;
    const rowAB = (py - yAB) * wAB;
    const rowBC = (py - yBC) * wBC;
    const rowCA = (py - yCA) * wCA;
    const rowBD = (py - yBD) * wBD;
    const rowDC = (py - yDC) * wDC;
    const begin = max(x0, (<i32>low) & ~3);
    const last = min(x1, <i32>high);
    for (let column = begin; column <= last; column += 4) {
      const px = f32x4.add(f32x4.splat(<f32>column), steps);
      const eAB = edgeAt(px, xAB, hAB, rowAB);
      const eBC = edgeAt(px, xBC, hBC, rowBC);
      const eCA = edgeAt(px, xCA, hCA, rowCA);
      const eBD = edgeAt(px, xBD, hBD, rowBD);
      const eDC = edgeAt(px, xDC, hDC, rowDC);
      let inFirst = v128.and(within(eAB, first > 0 != endAB), within(eBC, first > 0 != endBC));
      inFirst = v128.and(v128.and(inFirst, within(eCA, first > 0 != endCA)), onlyFirst);
      let inSecond = v128.and(within(eBD, second > 0 != endBD), within(eDC, second > 0 != endDC));
      inSecond = v128.and(v128.and(inSecond, within(eBC, second > 0 == endBC)), onlySecond);
      const mask = v128.or(inFirst, inSecond);
      if (!v128.any_true(mask)) continue;
      // Shares of the corners: of c and a in the first triangle, of b and d in the second.
      const wc = f32x4.abs(f32x4.mul(eAB, partFirst));
      const wa = f32x4.abs(f32x4.mul(eBC, partFirst));
      const wb = f32x4.abs(f32x4.mul(eDC, partSecond));
      const wd = f32x4.abs(f32x4.mul(eBC, partSecond));
      // From the first end to the second; and across, where a and c have -1, b and d 1.
      const along = v128.bitselect(wc, f32x4.sub(one, wb), inFirst);
      const t = f32x4.pmax(f32x4.pmin(along, one), zero);
      const aside = v128.bitselect(f32x4.sub(one, f32x4.add(wa, wc)), f32x4.add(wb, wd), inFirst);
      const across = f32x4.sub(f32x4.add(aside, aside), one);
      const at = line + ((<usize>column) << 2);
      let depth = zero;
      if (deep) {
        const near = v128.load32_splat(band, 8);
        const far = v128.load32_splat(band + END, 8);
        if (inverse) {
          const nearer = f32x4.div(one, near);
          const step = f32x4.sub(f32x4.div(one, far), nearer);
          depth = f32x4.div(one, f32x4.add(nearer, f32x4.mul(step, t)));
        } else depth = f32x4.add(near, f32x4.mul(f32x4.sub(far, near), t));
      }
      const square = f32x4.mul(across, across);
      let weight = edged(f32x4.sub(one, square), edge);
      const lit = f32x4.add(s0, f32x4.add(f32x4.mul(s1, across), f32x4.mul(s2, square)));
      const cr = f32x4.mul(f32x4.add(from(band, 16), f32x4.mul(more(band, 16), t)), lit);
      const cg = f32x4.mul(f32x4.add(from(band, 20), f32x4.mul(more(band, 20), t)), lit);
      const cb = f32x4.mul(f32x4.add(from(band, 24), f32x4.mul(more(band, 24), t)), lit);
      if (mode == Mode.OPAQUE) {
        const before = f32x4.lt(depth, v128.load(nearest + at));
        const solid = v128.and(v128.and(mask, before), f32x4.ge(weight, f32x4.splat(0.5)));
        cover(red + at, green + at, blue + at, nearest + at, solid, depth, cr, cg, cb);
        continue;
      }
      weight = v128.and(weight, mask);
      if (nearest) weight = unhidden(weight, v128.load(nearest + at), depth, soft);
      const alpha = f32x4.add(from(band, 12), f32x4.mul(more(band, 12), t));
      blend(mode, red + at, weight, cr, alpha);
      blend(mode, green + at, weight, cg, alpha);
      blend(mode, blue + at, weight, cb, alpha);
    }
  }
}
