// Edges of triangles and bands, and which pixels lie on which side.

/** Edges that rise less than this, in pixels, bound no row. */
export const LEVEL: f32 = 1e-3;

/** Pixels across for each row down. */
// @inline
export function slopeOf(ax: f32, ay: f32, bx: f32, by: f32): f32 {
  return abs<f32>(by - ay) > LEVEL ? (bx - ax) / (by - ay) : 0;
}

/** Above 0 where the inside lies to the right of an edge, below 0 to the left; 0 for level ones. */
// @inline
export function sideOf(ay: f32, by: f32, area: f32): f32 {
  return abs<f32>(by - ay) > LEVEL ? (by - ay) * area : 0;
}

/** Where a row at `y` can begin to be inside an edge through (ax, ay), a pixel and more early. */
// @inline
export function lower(low: f32, side: f32, y: f32, ax: f32, ay: f32, slope: f32): f32 {
  return side > 0 ? max(low, ax + (y - ay) * slope - 1.5) : low;
}

/** Where it ends, a pixel and more late. */
// @inline
export function upper(high: f32, side: f32, y: f32, ax: f32, ay: f32, slope: f32): f32 {
  return side < 0 ? min(high, ax + (y - ay) * slope + 1.5) : high;
}

/** Which of four pixels are within an edge: those on it belong to the triangle on one side. */
// @inline
export function within(e: v128, positive: bool): v128 {
  return positive ? f32x4.ge(e, f32x4.splat(0)) : f32x4.lt(e, f32x4.splat(0));
}

/**
 * Whether an edge from a to b is worked out from b: the same end, and so the same number, in both
 * shapes that share it.
 */
// @inline
export function fromEnd(ax: f32, ay: f32, bx: f32, by: f32): bool {
  return bx < ax || (bx == ax && by < ay);
}

/** Four values of the function that is 0 on an edge from (x, y); `row` is its part of the row. */
// @inline
export function edgeAt(px: v128, x: f32, dy: f32, row: f32): v128 {
  return f32x4.sub(f32x4.mul(f32x4.sub(px, f32x4.splat(x)), f32x4.splat(dy)), f32x4.splat(row));
}
