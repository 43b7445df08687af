// Planes of floats: rows that are padded to a multiple of four, with one more at least.

/** Room before and behind a row for what is beyond its ends, in floats. */
export const ENDS: i32 = 8;

/** Floats from one row to the next. */
export function strideOf(width: i32): i32 {
  return (width + 4) & ~3;
}

// @inline
export function floats(count: i32): usize {
  return (<usize>count) << 2;
}

// @inline
export function rowOf(plane: usize, y: i32, stride: i32): usize {
  return plane + floats(y * stride);
}

/** A row with what is beyond its ends: the same as there. */
export function withEnds(from: usize, to: usize, width: i32): void {
  memory.copy(to, from, floats(width));
  const first = f32x4.splat(load<f32>(from));
  const last = f32x4.splat(load<f32>(from + floats(width - 1)));
  v128.store(to - 16, first);
  v128.store(to + floats(width), last);
  v128.store(to + floats(width) + 16, last);
}
