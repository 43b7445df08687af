// What particles leave in a medium: sums in its cells, in the order of slots whatever the threads do.

import { arg, argF, own } from './args';
import { Medium } from './generated/words';

const PLANES = 6;
/** Cells away from which a place is nowhere. */
const FAR: f32 = 1e5;

// @inline
function plane(args: usize, index: i32): usize {
  return <usize>arg(args, Medium.TO + index);
}

/**
 * How near a cell is to a particle along one axis, by its distance in parts of the radius: 1, to 0 at the radius. The
 * share of a cell is the product of both.
 */
// @inline
function near(part: f32): f32 {
  const rest = max<f32>(0, 1 - part * part);
  return rest * rest;
}

// @inline
function add(to: usize, weight: v128, value: v128): void {
  v128.store(to, f32x4.add(v128.load(to), f32x4.mul(weight, value)));
}

/** One particle at a place in cells, to the lines of a band. */
function leave(args: usize, i: i32, x: f32, y: f32, first: i32, last: i32): void {
  const radius = argF(args, Medium.RADIUS);
  const low = max(first, <i32>Mathf.ceil(y - radius));
  const high = min(last, <i32>Mathf.floor(y + radius));
  // Four cells at once from a multiple of four on: never beyond the end of a row.
  const left = max(0, <i32>Mathf.ceil(x - radius)) & ~3;
  const right = min(arg(args, Medium.COLUMNS), <i32>Mathf.floor(x + radius));
  if (low > high || right < 1) return;
  const stride = arg(args, Medium.STRIDE);
  const gain = argF(args, Medium.GAIN) * own(args, Medium.FROM + 7, i);
  const u = f32x4.splat(own(args, Medium.FROM + 2, i));
  const v = f32x4.splat(own(args, Medium.FROM + 3, i));
  const red = f32x4.splat(own(args, Medium.FROM + 4, i));
  const green = f32x4.splat(own(args, Medium.FROM + 5, i));
  const blue = f32x4.splat(own(args, Medium.FROM + 6, i));
  const inverse: f32 = 1 / radius;
  const steps = f32x4.mul(f32x4(0, 1, 2, 3), f32x4.splat(inverse));
  const one = f32x4.splat(1);
  const nothing = f32x4.splat(0);
  for (let line = low; line <= high; line++) {
    const share = near((<f32>line - y) * inverse) * gain;
    const row = line * stride;
    for (let column = left; column <= right; column += 4) {
      const part = f32x4.add(f32x4.splat((<f32>column - x) * inverse), steps);
      const rest = f32x4.max(nothing, f32x4.sub(one, f32x4.mul(part, part)));
      const weight = f32x4.mul(f32x4.mul(rest, rest), f32x4.splat(share));
      const at = (<usize>(row + column)) << 2;
      add(plane(args, 0) + at, weight, one);
      add(plane(args, 1) + at, weight, u);
      add(plane(args, 2) + at, weight, v);
      add(plane(args, 3) + at, weight, red);
      add(plane(args, 4) + at, weight, green);
      add(plane(args, 5) + at, weight, blue);
    }
  }
}

/** A band of lines for a task; arguments: see WORDS.medium. */
export function leaveInMedium(task: i32, args: usize, thread: i32): void {
  const lines = arg(args, Medium.LINES);
  const columns = arg(args, Medium.COLUMNS);
  const stride = arg(args, Medium.STRIDE);
  const band = arg(args, Medium.BAND);
  const first = 1 + task * band;
  const last = min(lines, first + band - 1);
  if (arg(args, Medium.FRESH) != 0) {
    const bytes = (<usize>((last - first + 1) * stride)) << 2;
    for (let k = 0; k < PLANES; k++) {
      memory.fill(plane(args, k) + ((<usize>(first * stride)) << 2), 0, bytes);
    }
  }
  const radius = argF(args, Medium.RADIUS);
  const wraps = arg(args, Medium.WRAPS) != 0;
  const count = arg(args, Medium.COUNT);
  // What is farther from the band leaves nothing in it.
  const lowest = <f32>first - radius;
  const highest = <f32>last + radius;
  const wide = <f32>columns;
  const high = <f32>lines;
  for (let i = 0; i < count; i++) {
    let y = own(args, Medium.FROM + 1, i);
    if (!wraps && !(y > lowest && y < highest)) continue;
    let x = own(args, Medium.FROM, i);
    if (!(abs(x) < FAR) || !(abs(y) < FAR)) continue;
    if (!wraps) {
      leave(args, i, x, y, first, last);
      continue;
    }
    // From 0.5 to half a cell behind the last, and again wherever its surroundings go round an edge.
    x -= Mathf.floor((x - 0.5) / wide) * wide;
    y -= Mathf.floor((y - 0.5) / high) * high;
    const over = y + radius > high ? -high : y - radius < 1 ? high : 0;
    const beside = x + radius > wide ? -wide : x - radius < 1 ? wide : 0;
    leave(args, i, x, y, first, last);
    if (over != 0) leave(args, i, x, y + over, first, last);
    if (beside != 0) leave(args, i, x + beside, y, first, last);
    if (over != 0 && beside != 0) leave(args, i, x + beside, y + over, first, last);
  }
}
