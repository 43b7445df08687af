// How what is drawn meets what is there: one plane at four pixels.

import { Mode } from './generated/words';

/**
 * w: weight there; c: light, multiplied by opacity; a: opacity. With s = cw and o = aw:
 * add d + s; screen d + min(s, 1) (1 - d); normal d (1 - o) + s; multiply d (1 - o + s);
 * lighten max(d, s). Opaque things go another way, see `cover`.
 */
// @inline
export function blend(mode: i32, to: usize, w: v128, c: v128, a: v128): void {
  const d = v128.load(to);
  const one = f32x4.splat(1);
  const s = f32x4.mul(c, w);
  if (mode == Mode.ADD) {
    v128.store(to, f32x4.add(d, s));
  } else if (mode == Mode.SCREEN) {
    v128.store(to, f32x4.add(d, f32x4.mul(f32x4.pmin(s, one), f32x4.sub(one, d))));
  } else if (mode == Mode.NORMAL) {
    const keep = f32x4.sub(one, f32x4.mul(a, w));
    v128.store(to, f32x4.add(f32x4.mul(d, keep), s));
  } else if (mode == Mode.MULTIPLY) {
    const keep = f32x4.sub(one, f32x4.mul(a, w));
    v128.store(to, f32x4.mul(d, f32x4.add(keep, s)));
  } else {
    v128.store(to, f32x4.max(d, s));
  }
}

// @inline
function put(to: usize, mask: v128, c: v128): void {
  v128.store(to, v128.bitselect(c, v128.load(to), mask));
}

/** Light and depth of an opaque thing where `mask` is set; the first four are addresses of the pixels in the planes. */
// @inline
export function cover(
  red: usize,
  green: usize,
  blue: usize,
  nearest: usize,
  mask: v128,
  depth: v128,
  cr: v128,
  cg: v128,
  cb: v128,
): void {
  put(red, mask, cr);
  put(green, mask, cg);
  put(blue, mask, cb);
  put(nearest, mask, depth);
}

/**
 * The part of a weight that opaque things leave: all before them, nothing behind, with `soft` (1 / metres) a fade on
 * the way there.
 */
// @inline
export function unhidden(w: v128, nearest: v128, depth: v128, soft: v128): v128 {
  const before = f32x4.sub(nearest, depth);
  const fade = f32x4.pmin(f32x4.mul(before, soft), f32x4.splat(1));
  const part = v128.bitselect(f32x4.splat(1), fade, f32x4.le(soft, f32x4.splat(0)));
  return v128.and(f32x4.mul(w, part), f32x4.gt(before, f32x4.splat(0)));
}
