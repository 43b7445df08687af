// Faces of small copies into fine planes: most of what is drawn of many.

import { arg } from './args';
import { Tiles } from './generated/words';
import { cover } from './blend';
import { LEVEL } from './edges';
import { CORNER } from './triangles';

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

/** Where one of the edges crosses four rows. */
// @inline
function crossing(ox: v128, oy: v128, slope: v128, py: v128, edge: i32): v128 {
  const rise = f32x4.sub(py, every(oy, edge));
  return f32x4.add(every(ox, edge), f32x4.mul(rise, every(slope, edge)));
}

/** One lane in all lanes. */
// @inline
function every(v: v128, edge: i32): v128 {
  if (edge == 0) return v128.shuffle<f32>(v, v, 0, 0, 0, 0);
  if (edge == 1) return v128.shuffle<f32>(v, v, 1, 1, 1, 1);
  if (edge == 2) return v128.shuffle<f32>(v, v, 2, 2, 2, 2);
  return v128.shuffle<f32>(v, v, 3, 3, 3, 3);
}

/** Beyond any sample. */
const FAR: f32 = 1e6;

/**
 * Fills a face of four corners in turn (of a triangle the last is the first again): with the light of its
 * first corner, or `shaded` with what goes evenly from the lights of the first three, which stand from
 * `light` on as those of a triangle do. Corners are in samples; distances from the eye, over so small a face,
 * as good as straight over the screen. Both faces of an edge work out where it crosses a row from the same
 * end, so that each sample belongs to one of them.
 *
 * @param rows where 32 bytes are to work with
 */
// @inline
export function fillFace(
  shaded: bool,
  args: usize,
  x: v128,
  y: v128,
  z: v128,
  light: usize,
  tx: i32,
  ty: i32,
  right: i32,
  bottom: i32,
  rows: usize,
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
  const r = load<f32>(light, 12);
  const g = load<f32>(light, 16);
  const b = load<f32>(light, 20);
  let rx: f32 = 0;
  let ry: f32 = 0;
  let gx: f32 = 0;
  let gy: f32 = 0;
  let bx: f32 = 0;
  let by: f32 = 0;
  if (shaded) {
    const ru = load<f32>(light, CORNER + 12) - r;
    const rv = load<f32>(light, 2 * CORNER + 12) - r;
    rx = (rv * uy - ru * vy) / area;
    ry = (ru * vx - rv * ux) / area;
    const gu = load<f32>(light, CORNER + 16) - g;
    const gv = load<f32>(light, 2 * CORNER + 16) - g;
    gx = (gv * uy - gu * vy) / area;
    gy = (gu * vx - gv * ux) / area;
    const bu = load<f32>(light, CORNER + 20) - b;
    const bv = load<f32>(light, 2 * CORNER + 20) - b;
    bx = (bv * uy - bu * vy) / area;
    by = (bu * vx - bv * ux) / area;
  }
  // Depth as a plane over the screen.
  const za = f32x4.extract_lane(z, 0);
  const zu = f32x4.extract_lane(z, 1) - za;
  const zv = f32x4.extract_lane(z, 2) - za;
  const zx = (zv * uy - zu * vy) / area;
  const zy = (zu * vx - zv * ux) / area;
  const none = f32x4.splat(FAR);
  const nowhere = f32x4.splat(-FAR);
  const begins = f32x4.splat(<f32>tx);
  const ends = f32x4.splat(<f32>right + 1);
  const half = f32x4.splat(0.5);
  // Where four rows begin and end, and then one after the other.
  for (let top = y0; top <= y1; top += 4) {
    const py = f32x4.add(f32x4.splat(<f32>top), f32x4(0.5, 1.5, 2.5, 3.5));
    let low = begins;
    let high = ends;
    const xAB = crossing(ox, oy, slope, py, 0);
    const xBC = crossing(ox, oy, slope, py, 1);
    const xCD = crossing(ox, oy, slope, py, 2);
    const xDA = crossing(ox, oy, slope, py, 3);
    low = f32x4.pmax(low, v128.bitselect(xAB, nowhere, every(isLow, 0)));
    low = f32x4.pmax(low, v128.bitselect(xBC, nowhere, every(isLow, 1)));
    low = f32x4.pmax(low, v128.bitselect(xCD, nowhere, every(isLow, 2)));
    low = f32x4.pmax(low, v128.bitselect(xDA, nowhere, every(isLow, 3)));
    high = f32x4.pmin(high, v128.bitselect(xAB, none, every(isHigh, 0)));
    high = f32x4.pmin(high, v128.bitselect(xBC, none, every(isHigh, 1)));
    high = f32x4.pmin(high, v128.bitselect(xCD, none, every(isHigh, 2)));
    high = f32x4.pmin(high, v128.bitselect(xDA, none, every(isHigh, 3)));
    v128.store(rows, i32x4.trunc_sat_f32x4_s(f32x4.ceil(f32x4.sub(low, half))));
    v128.store(rows, i32x4.trunc_sat_f32x4_s(f32x4.ceil(f32x4.sub(high, half))), 16);
    const under = min(top + 3, y1);
    for (let row = top; row <= under; row++) {
      const place = rows + ((<usize>(row - top)) << 2);
      const first = load<i32>(place);
      const last = load<i32>(place, 16) - 1;
      if (last < first) continue;
      const dy = <f32>row + 0.5 - ay;
      fillRow(
        shaded,
        (<usize>(row * stride)) << 2,
        first,
        last,
        za + dy * zy + (0.5 - ax) * zx,
        zx,
        r + dy * ry + (0.5 - ax) * rx,
        rx,
        g + dy * gy + (0.5 - ax) * gx,
        gx,
        b + dy * by + (0.5 - ax) * bx,
        bx,
        red,
        green,
        blue,
        nearest,
      );
    }
  }
}

/**
 * One row of a face, from sample `first` to `last`: its depth and its light at the beginning of the frame's
 * row, and what they grow by a sample.
 */
// @inline
function fillRow(
  shaded: bool,
  line: usize,
  first: i32,
  last: i32,
  z: f32,
  zx: f32,
  r: f32,
  rx: f32,
  g: f32,
  gx: f32,
  b: f32,
  bx: f32,
  red: usize,
  green: usize,
  blue: usize,
  nearest: usize,
): void {
  const lanes = i32x4(0, 1, 2, 3);
  const from = first & ~3;
  const begin = i32x4.splat(first - 1);
  const end = i32x4.splat(last + 1);
  let depth = grown(z, zx, from);
  let cr = shaded ? grown(r, rx, from) : f32x4.splat(r);
  let cg = shaded ? grown(g, gx, from) : f32x4.splat(g);
  let cb = shaded ? grown(b, bx, from) : f32x4.splat(b);
  let at = line + ((<usize>from) << 2);
  for (let column = from; column <= last; column += 4) {
    const index = i32x4.add(i32x4.splat(column), lanes);
    const inside = v128.and(i32x4.gt_s(index, begin), i32x4.lt_s(index, end));
    const mask = v128.and(inside, f32x4.lt(depth, v128.load(nearest + at)));
    if (v128.any_true(mask)) {
      cover(red + at, green + at, blue + at, nearest + at, mask, depth, cr, cg, cb);
    }
    depth = f32x4.add(depth, f32x4.splat(4 * zx));
    if (shaded) {
      cr = f32x4.add(cr, f32x4.splat(4 * rx));
      cg = f32x4.add(cg, f32x4.splat(4 * gx));
      cb = f32x4.add(cb, f32x4.splat(4 * bx));
    }
    at += 16;
  }
}

/** Four values from sample `from` on of what begins with `v` and grows by `by`. */
// @inline
function grown(v: f32, by: f32, from: i32): v128 {
  const steps = f32x4.mul(f32x4(0, 1, 2, 3), f32x4.splat(by));
  return f32x4.add(f32x4.splat(v + <f32>from * by), steps);
}
