// Planes at half and at twice their size.

import { ENDS, floats, rowOf, strideOf } from './rows';

/** Half the size, with weights 1 3 3 1 each way: what is too fine to be halved would be seen as something else. */
export function halved(from: usize, width: i32, height: i32, to: usize, rows: usize): void {
  const stride = strideOf(width);
  const w = width >> 1;
  const h = height >> 1;
  const out = strideOf(w);
  const line = rows + floats(ENDS);
  for (let y = 0; y < h; y++) {
    const a = rowOf(from, max(0, 2 * y - 1), stride);
    const b = rowOf(from, 2 * y, stride);
    const c = rowOf(from, min(height - 1, 2 * y + 1), stride);
    const d = rowOf(from, min(height - 1, 2 * y + 2), stride);
    const near = f32x4.splat(0.375);
    const far = f32x4.splat(0.125);
    for (let x = 0; x < stride; x += 4) {
      const k = floats(x);
      const outer = f32x4.mul(f32x4.add(v128.load(a + k), v128.load(d + k)), far);
      const inner = f32x4.mul(f32x4.add(v128.load(b + k), v128.load(c + k)), near);
      v128.store(line + k, f32x4.add(outer, inner));
    }
    const row = rowOf(to, y, out);
    for (let x = 0; x < w; x++) {
      const before = load<f32>(line + floats(max(0, 2 * x - 1)));
      const one = load<f32>(line + floats(2 * x));
      const two = load<f32>(line + floats(2 * x + 1));
      const behind = load<f32>(line + floats(min(width - 1, 2 * x + 2)));
      store<f32>(row + floats(x), (before + behind) * <f32>0.125 + (one + two) * <f32>0.375);
    }
  }
}

/** A plane of the flow at twice the size, straight between its cells, and twice as far. */
export function doubled(
  from: usize,
  w: i32,
  h: i32,
  to: usize,
  width: i32,
  height: i32,
  rows: usize,
): void {
  const stride = strideOf(w);
  const out = strideOf(width);
  const line = rows + floats(ENDS);
  for (let y = 0; y < height; y++) {
    const near = min(h - 1, y >> 1);
    const other = max(0, min(h - 1, (y >> 1) + (y & 1 ? 1 : -1)));
    const a = rowOf(from, near, stride);
    const b = rowOf(from, other, stride);
    const most = f32x4.splat(1.5);
    const least = f32x4.splat(0.5);
    for (let x = 0; x < stride; x += 4) {
      const k = floats(x);
      const sum = f32x4.add(f32x4.mul(v128.load(a + k), most), f32x4.mul(v128.load(b + k), least));
      v128.store(line + k, sum);
    }
    const row = rowOf(to, y, out);
    for (let x = 0; x < width; x++) {
      const i = min(w - 1, x >> 1);
      const k = max(0, min(w - 1, (x >> 1) + (x & 1 ? 1 : -1)));
      const value =
        load<f32>(line + floats(i)) * <f32>0.75 + load<f32>(line + floats(k)) * <f32>0.25;
      store<f32>(row + floats(x), value);
    }
  }
}
