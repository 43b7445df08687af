// A decoded picture as red, green and blue, see src/stock/read/clip/planes.ts, which says by what equations.

/** Where the tables stand: y, then what red, green (twice) and blue get of the colours, 256 numbers of 8 bytes each. */
const TABLE: usize = 8 * 256;

/** Bytes of tables, pixels and planes, in this order; the planes are `planeBytes` together. */
export function mixBytes(width: i32, height: i32, planeBytes: i32): i32 {
  return 5 * <i32>TABLE + 4 * width * height + planeBytes;
}

/** Where the pixels stand; behind them the planes. */
export function pixelsAt(): i32 {
  return 5 * <i32>TABLE;
}

// @inline
function byteOf(value: f64): i32 {
  return max(0, min(255, <i32>floor(value)));
}

// @inline
function entry(table: i32, code: i32): f64 {
  return load<f64>(<usize>table * TABLE + ((<usize>code) << 3));
}

/**
 * Mixes each pixel from its brightness and the nearest values of the colours.
 *
 * @param luma where brightness stands, from the beginning of memory, and `lumaStride` bytes from row to row; blue
 * and red are the same at half the size, `step` bytes from one value to the next
 */
export function mix(
  width: i32,
  height: i32,
  luma: i32,
  lumaStride: i32,
  blue: i32,
  red: i32,
  stride: i32,
  step: i32,
): void {
  let out = <usize>pixelsAt();
  for (let j = 0; j < height; j++) {
    const row = <usize>(luma + j * lumaStride);
    const half = (j >> 1) * stride;
    for (let i = 0; i < width; i++, out += 4) {
      const c = half + (i >> 1) * step;
      const u = <i32>load<u8>(<usize>(blue + c));
      const v = <i32>load<u8>(<usize>(red + c));
      const y = entry(0, <i32>load<u8>(row + <usize>i));
      const r = byteOf(y + entry(1, v));
      const g = byteOf(y + entry(2, u) + entry(3, v));
      const b = byteOf(y + entry(4, u));
      store<i32>(out, r | (g << 8) | (b << 16) | (0xff << 24));
    }
  }
}
