// Means over windows about each cell of a plane.

import { ENDS, floats, rowOf, strideOf, withEnds } from './rows';

/** Means of 3 neighbours along a row where the radius is 1, else of 7. */
function sumRow(from: usize, to: usize, width: i32, radius: i32, share: v128): void {
  for (let x = 0; x < width; x += 4) {
    const at = from + floats(x);
    let sum = f32x4.add(v128.load(at), f32x4.add(v128.load(at - 4), v128.load(at + 4)));
    if (radius > 1) {
      sum = f32x4.add(sum, f32x4.add(v128.load(at - 8), v128.load(at + 8)));
      sum = f32x4.add(sum, f32x4.add(v128.load(at - 12), v128.load(at + 12)));
    }
    v128.store(to + floats(x), f32x4.mul(sum, share));
  }
}

/** The same down all columns. */
function sumColumns(
  from: usize,
  to: usize,
  width: i32,
  height: i32,
  radius: i32,
  share: v128,
): void {
  const stride = strideOf(width);
  for (let y = 0; y < height; y++) {
    const here = rowOf(from, y, stride);
    const out = rowOf(to, y, stride);
    if (radius == 1) {
      const a = rowOf(from, max(0, y - 1), stride);
      const b = rowOf(from, min(height - 1, y + 1), stride);
      for (let x = 0; x < stride; x += 4) {
        const k = floats(x);
        const sum = f32x4.add(v128.load(here + k), f32x4.add(v128.load(a + k), v128.load(b + k)));
        v128.store(out + k, f32x4.mul(sum, share));
      }
      continue;
    }
    const a1 = rowOf(from, max(0, y - 1), stride);
    const a2 = rowOf(from, max(0, y - 2), stride);
    const a3 = rowOf(from, max(0, y - 3), stride);
    const b1 = rowOf(from, min(height - 1, y + 1), stride);
    const b2 = rowOf(from, min(height - 1, y + 2), stride);
    const b3 = rowOf(from, min(height - 1, y + 3), stride);
    for (let x = 0; x < stride; x += 4) {
      const k = floats(x);
      let sum = f32x4.add(v128.load(here + k), f32x4.add(v128.load(a1 + k), v128.load(b1 + k)));
      sum = f32x4.add(sum, f32x4.add(v128.load(a2 + k), v128.load(b2 + k)));
      sum = f32x4.add(sum, f32x4.add(v128.load(a3 + k), v128.load(b3 + k)));
      v128.store(out + k, f32x4.mul(sum, share));
    }
  }
}

/**
 * Means over squares about each cell, twice: near ones count more. Outside is what the border has.
 * @param spare a plane; `rows` room for two rows with their ends
 */
export function windowed(
  plane: usize,
  width: i32,
  height: i32,
  radius: i32,
  spare: usize,
  rows: usize,
): void {
  const stride = strideOf(width);
  const side = 2 * radius + 1;
  const share = f32x4.splat(<f32>1.0 / <f32>side);
  const first = rows + floats(ENDS);
  const second = first + floats(stride + 2 * ENDS);
  for (let y = 0; y < height; y++) {
    const row = rowOf(plane, y, stride);
    withEnds(row, first, width);
    sumRow(first, second, width, radius, share);
    withEnds(second, first, width);
    sumRow(first, row, width, radius, share);
  }
  sumColumns(plane, spare, width, height, radius, share);
  sumColumns(spare, plane, width, height, radius, share);
}
