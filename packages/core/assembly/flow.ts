// Dense optical flow from coarse to fine, see src/stock/clip/opticalFlow.ts, which says whose method it is. All
// planes are rows of floats, padded to a multiple of four with one more at least; what stands in the padding counts
// nowhere, save the one behind each row of the earlier picture.

import { ENDS, floats, rowOf, strideOf, withEnds } from './rows';
import { doubled, halved } from './sizes';
import { windowed } from './windows';

/** Pictures smaller than this are not halved again. */
const SMALLEST: i32 = 12;
/** Looks at each size, each with what the one before it found; the finest has little left to find. */
const LOOKS: i32 = 4;
const FINEST_LOOKS: i32 = 2;
/** Half the side of the window about a cell that moves as one. */
const WINDOW: i32 = 3;
/** Below this a window has too little to be seen: what larger windows found stays. */
const FLAT: f32 = 2e-4;

/** Bytes of the two pictures and all that is worked with; the first `planeBytes` are the earlier picture, then the later. */
export function bytesOf(width: i32, height: i32): i32 {
  return <i32>rowsOf(<usize>planeBytes(width, height)) + 8 * (strideOf(width) + 2 * ENDS);
}

export function planeBytes(width: i32, height: i32): i32 {
  return 4 * strideOf(width) * height;
}

/**
 * Where room for rows begins: behind both pictures with all their halves (4 planes), the flow twice (4), slopes and
 * their products (5), errors (2) and what is half done (1).
 */
// @inline
function rowsOf(plane: usize): usize {
  return 16 * plane;
}

/** Slopes of the later picture by central differences, and their products. */
function slopes(
  picture: usize,
  width: i32,
  height: i32,
  gx: usize,
  gy: usize,
  xx: usize,
  xy: usize,
  yy: usize,
  rows: usize,
): void {
  const stride = strideOf(width);
  const line = rows + floats(ENDS);
  const half = f32x4.splat(0.5);
  for (let y = 0; y < height; y++) {
    const above = rowOf(picture, max(0, y - 1), stride);
    const below = rowOf(picture, min(height - 1, y + 1), stride);
    withEnds(rowOf(picture, y, stride), line, width);
    const at = floats(y * stride);
    for (let x = 0; x < width; x += 4) {
      const k = floats(x);
      const here = line + k;
      const h = f32x4.mul(f32x4.sub(v128.load(here + 4), v128.load(here - 4)), half);
      const v = f32x4.mul(f32x4.sub(v128.load(below + k), v128.load(above + k)), half);
      v128.store(gx + at + k, h);
      v128.store(gy + at + k, v);
      v128.store(xx + at + k, f32x4.mul(h, h));
      v128.store(xy + at + k, f32x4.mul(h, v));
      v128.store(yy + at + k, f32x4.mul(v, v));
    }
  }
}

// @inline
function pair(plane: usize, offsets: v128, first: bool): v128 {
  const one = first ? i32x4.extract_lane(offsets, 0) : i32x4.extract_lane(offsets, 2);
  const two = first ? i32x4.extract_lane(offsets, 1) : i32x4.extract_lane(offsets, 3);
  return v128.load64_lane(plane + <usize>two, v128.load64_zero(plane + <usize>one), 1);
}

/** Difference of the later picture from the earlier one, moved by the flow that is known, along each slope. */
function errors(
  before: usize,
  after: usize,
  width: i32,
  height: i32,
  fx: usize,
  fy: usize,
  gx: usize,
  gy: usize,
  ex: usize,
  ey: usize,
): void {
  const stride = strideOf(width);
  const zero = f32x4.splat(0);
  const right = f32x4.splat(<f32>(width - 1));
  const bottom = f32x4.splat(<f32>(height - 1));
  const strides = i32x4.splat(4 * stride);
  for (let y = 0; y < height; y++) {
    const row = f32x4.splat(<f32>y);
    for (let x = 0; x < width; x += 4) {
      const k = floats(y * stride + x);
      const column = f32x4.add(f32x4.splat(<f32>x), f32x4(0, 1, 2, 3));
      const px = f32x4.sub(column, v128.load(fx + k));
      const py = f32x4.sub(row, v128.load(fy + k));
      const cx = f32x4.pmax(f32x4.pmin(px, right), zero);
      const cy = f32x4.pmax(f32x4.pmin(py, bottom), zero);
      // What has come in from outside fits to nothing.
      const inside = v128.and(f32x4.eq(px, cx), f32x4.eq(py, cy));
      const i = i32x4.trunc_sat_f32x4_s(cx);
      const j = i32x4.trunc_sat_f32x4_s(cy);
      const tx = f32x4.sub(cx, f32x4.convert_i32x4_s(i));
      const ty = f32x4.sub(cy, f32x4.convert_i32x4_s(j));
      const top = i32x4.add(i32x4.mul(j, strides), i32x4.shl(i, 2));
      const below = i32x4.add(j, i32x4.splat(1));
      const next = i32x4.min_s(below, i32x4.splat(height - 1));
      const low = i32x4.add(i32x4.mul(next, strides), i32x4.shl(i, 2));
      const a = pair(before, top, true);
      const b = pair(before, top, false);
      const c = pair(before, low, true);
      const d = pair(before, low, false);
      const t0 = v128.shuffle<f32>(a, b, 0, 2, 4, 6);
      const t1 = v128.shuffle<f32>(a, b, 1, 3, 5, 7);
      const b0 = v128.shuffle<f32>(c, d, 0, 2, 4, 6);
      const b1 = v128.shuffle<f32>(c, d, 1, 3, 5, 7);
      const high = f32x4.add(t0, f32x4.mul(f32x4.sub(t1, t0), tx));
      const deep = f32x4.add(b0, f32x4.mul(f32x4.sub(b1, b0), tx));
      const was = f32x4.add(high, f32x4.mul(f32x4.sub(deep, high), ty));
      const off = v128.and(f32x4.sub(v128.load(after + k), was), inside);
      v128.store(ex + k, f32x4.mul(v128.load(gx + k), off));
      v128.store(ey + k, f32x4.mul(v128.load(gy + k), off));
    }
  }
}

/** Least squares in each window; a look goes no further than what its slopes can tell. */
function solve(
  count: i32,
  xx: usize,
  xy: usize,
  yy: usize,
  ex: usize,
  ey: usize,
  fx: usize,
  fy: usize,
): void {
  const flat = f32x4.splat(FLAT);
  const one = f32x4.splat(1);
  const less = f32x4.splat(-1);
  for (let n = 0; n < count; n += 4) {
    const k = floats(n);
    const a = f32x4.add(v128.load(xx + k), flat);
    const b = v128.load(xy + k);
    const c = f32x4.add(v128.load(yy + k), flat);
    const sx = v128.load(ex + k);
    const sy = v128.load(ey + k);
    const determinant = f32x4.sub(f32x4.mul(a, c), f32x4.mul(b, b));
    const dx = f32x4.div(f32x4.sub(f32x4.mul(b, sy), f32x4.mul(c, sx)), determinant);
    const dy = f32x4.div(f32x4.sub(f32x4.mul(b, sx), f32x4.mul(a, sy)), determinant);
    const ox = v128.load(fx + k);
    const oy = v128.load(fy + k);
    v128.store(fx + k, f32x4.add(ox, f32x4.pmin(f32x4.pmax(dx, less), one)));
    v128.store(fy + k, f32x4.add(oy, f32x4.pmin(f32x4.pmax(dy, less), one)));
  }
}

/** A copy of the last cell behind each row, so that two can be read at once. */
function closeRows(plane: usize, width: i32, height: i32): void {
  const stride = strideOf(width);
  for (let y = 0; y < height; y++) {
    const last = rowOf(plane, y, stride) + floats(width - 1);
    store<f32>(last + 4, load<f32>(last));
  }
}

/**
 * Finds the flow between the two pictures at the beginning of memory. How far each cell has moved to the right
 * stands at the place that is given back, how far down in the plane behind it.
 */
export function find(width: i32, height: i32): usize {
  const plane = <usize>planeBytes(width, height);
  const rows = rowsOf(plane);
  // Halves of both stand one behind the other, from the finest on.
  let level = 0;
  let place: usize = 0;
  let w = width;
  let h = height;
  while (min(w, h) >= 2 * SMALLEST) {
    const bytes = <usize>planeBytes(w, h);
    const next = place + 2 * bytes;
    halved(place, w, h, next, rows);
    halved(place + bytes, w, h, next + <usize>planeBytes(w >> 1, h >> 1), rows);
    place = next;
    w >>= 1;
    h >>= 1;
    level++;
  }
  const work: usize = 4 * plane;
  let fx: usize = work;
  let other: usize = work + 2 * plane;
  memory.fill(fx, 0, 2 * plane);
  for (;;) {
    const later = place + <usize>planeBytes(w, h);
    const looks = level > 0 ? LOOKS : FINEST_LOOKS;
    refine(place, later, w, h, fx, fx + plane, looks, work + 4 * plane, plane, rows);
    if (level == 0) break;
    level--;
    const wide = width >> level;
    const high = height >> level;
    doubled(fx, w, h, other, wide, high, rows);
    doubled(fx + plane, w, h, other + plane, wide, high, rows);
    const swap = fx;
    fx = other;
    other = swap;
    w = wide;
    h = high;
    place -= 2 * <usize>planeBytes(w, h);
  }
  return fx;
}

/** One size: looks again and again, each time with the earlier picture moved by what is known so far. */
function refine(
  before: usize,
  after: usize,
  width: i32,
  height: i32,
  fx: usize,
  fy: usize,
  looks: i32,
  work: usize,
  plane: usize,
  rows: usize,
): void {
  const gx = work;
  const gy = work + plane;
  const xx = work + 2 * plane;
  const xy = work + 3 * plane;
  const yy = work + 4 * plane;
  const ex = work + 5 * plane;
  const ey = work + 6 * plane;
  const spare = work + 7 * plane;
  closeRows(before, width, height);
  slopes(after, width, height, gx, gy, xx, xy, yy, rows);
  windowed(xx, width, height, WINDOW, spare, rows);
  windowed(xy, width, height, WINDOW, spare, rows);
  windowed(yy, width, height, WINDOW, spare, rows);
  for (let look = 0; look < looks; look++) {
    errors(before, after, width, height, fx, fy, gx, gy, ex, ey);
    windowed(ex, width, height, WINDOW, spare, rows);
    windowed(ey, width, height, WINDOW, spare, rows);
    solve(strideOf(width) * height, xx, xy, yy, ex, ey, fx, fy);
    windowed(fx, width, height, 1, spare, rows);
    windowed(fy, width, height, 1, spare, rows);
  }
}
