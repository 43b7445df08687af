// Small flat faces of one light into fine planes: most of what is drawn of many copies.

import { arg } from './args';
import { Tiles } from './generated/words';
import { cover } from './blend';

/** The first sample whose middle is at `v` or behind it. */
// @inline
function sampleAt(v: f32): i32 {
  return <i32>ceil<f32>(max<f32>(-FAR, min<f32>(FAR, v - 0.5)));
}

/** The edges' other ends: of a to b, b to c, c to d and d to a. */
// @inline
function turned(v: v128): v128 {
  return v128.shuffle<f32>(v, v, 1, 2, 3, 0);
}

// @inline
function least(v: v128): f32 {
  const two = f32x4.min(v, v128.shuffle<f32>(v, v, 2, 3, 0, 1));
  return min(f32x4.extract_lane(two, 0), f32x4.extract_lane(two, 1));
}

// @inline
function most(v: v128): f32 {
  const two = f32x4.max(v, v128.shuffle<f32>(v, v, 2, 3, 0, 1));
  return max(f32x4.extract_lane(two, 0), f32x4.extract_lane(two, 1));
}

/** Beyond any sample. */
const FAR: f32 = 1e6;
/** Edges that rise less than this bound no row. */
const LEVEL: f32 = 1e-3;

/**
 * Fills a flat face of four corners in turn (of a triangle the last is the first again) with the light at
 * `light`. Corners are in samples; distances from the eye, over so small a face, as good as straight over
 * the screen. Both faces of an edge work out where it crosses a row from the same end, so that each sample
 * belongs to one of them.
 */
// @inline
export function fillEven(
  args: usize,
  x: v128,
  y: v128,
  z: v128,
  light: usize,
  tx: i32,
  ty: i32,
  right: i32,
  bottom: i32,
): void {
  const y0 = max(ty, sampleAt(least(y)));
  const y1 = min(bottom, sampleAt(most(y)) - 1);
  if (y1 < y0) return;
  const ax = f32x4.extract_lane(x, 0);
  const ay = f32x4.extract_lane(y, 0);
  const ux = f32x4.extract_lane(x, 1) - ax;
  const uy = f32x4.extract_lane(y, 1) - ay;
  const vx = f32x4.extract_lane(x, 2) - ax;
  const vy = f32x4.extract_lane(y, 2) - ay;
  // Twice the area with its sense.
  const area: f32 = vx * uy - vy * ux;
  if (!(abs<f32>(area) > 1e-6)) return;
  const nx = turned(x);
  const ny = turned(y);
  const rise = f32x4.sub(ny, y);
  const bounds = f32x4.gt(f32x4.abs(rise), f32x4.splat(LEVEL));
  // The inside lies to the right of these edges, to the left of the others.
  const downward = f32x4.gt(f32x4.mul(rise, f32x4.splat(area)), f32x4.splat(0));
  const isLow = v128.and(bounds, downward);
  const isHigh = v128.andnot(bounds, downward);
  const slope = f32x4.div(f32x4.sub(nx, x), rise);
  const swap = v128.or(f32x4.lt(nx, x), v128.and(f32x4.eq(nx, x), f32x4.lt(ny, y)));
  const ox = v128.bitselect(nx, x, swap);
  const oy = v128.bitselect(ny, y, swap);
  const stride = arg(args, Tiles.STRIDE);
  const red = <usize>arg(args, Tiles.PLANE);
  const green = <usize>arg(args, Tiles.PLANE + 1);
  const blue = <usize>arg(args, Tiles.PLANE + 2);
  const nearest = <usize>arg(args, Tiles.NEAREST);
  const cr = v128.load32_splat(light, 12);
  const cg = v128.load32_splat(light, 16);
  const cb = v128.load32_splat(light, 20);
  // Depth as a plane over the screen.
  const za = f32x4.extract_lane(z, 0);
  const zu = f32x4.extract_lane(z, 1) - za;
  const zv = f32x4.extract_lane(z, 2) - za;
  const zx = (zv * uy - zu * vy) / area;
  const zy = (zu * vx - zv * ux) / area;
  const lanes = i32x4(0, 1, 2, 3);
  const steps = f32x4.mul(f32x4(0, 1, 2, 3), f32x4.splat(zx));
  const step = f32x4.splat(4 * zx);
  const none = f32x4.splat(FAR);
  for (let row = y0; row <= y1; row++) {
    const py = <f32>row + 0.5;
    const crossing = f32x4.add(ox, f32x4.mul(f32x4.sub(f32x4.splat(py), oy), slope));
    const low = most(v128.bitselect(crossing, f32x4.neg(none), isLow));
    const high = least(v128.bitselect(crossing, none, isHigh));
    const first = max(tx, sampleAt(low));
    const last = min(right, sampleAt(high) - 1);
    if (last < first) continue;
    const from = first & ~3;
    const begin = i32x4.splat(first - 1);
    const end = i32x4.splat(last + 1);
    let depth = f32x4.add(f32x4.splat(za + (py - ay) * zy + (<f32>from + 0.5 - ax) * zx), steps);
    let at = (<usize>(row * stride + from)) << 2;
    for (let column = from; column <= last; column += 4) {
      const index = i32x4.add(i32x4.splat(column), lanes);
      const inside = v128.and(i32x4.gt_s(index, begin), i32x4.lt_s(index, end));
      const mask = v128.and(inside, f32x4.lt(depth, v128.load(nearest + at)));
      if (v128.any_true(mask)) {
        cover(red + at, mask, cr);
        cover(green + at, mask, cg);
        cover(blue + at, mask, cb);
        cover(nearest + at, mask, depth);
      }
      depth = f32x4.add(depth, step);
      at += 16;
    }
  }
}
