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

/** What is added to brightness, so that all is above 0 and cutting off rounds down. */
const ABOVE: i32 = 1024;

// @inline
function byteOf(value: f64): i32 {
  return max(0, min(255, <i32>value - ABOVE));
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
    let r: f64 = 0;
    let gu: f64 = 0;
    let gv: f64 = 0;
    let b: f64 = 0;
    for (let i = 0; i < width; i++, out += 4) {
      // Two pixels of a row have one colour.
      if ((i & 1) == 0) {
        const c = half + (i >> 1) * step;
        const u = <i32>load<u8>(<usize>(blue + c));
        const v = <i32>load<u8>(<usize>(red + c));
        r = entry(1, v);
        gu = entry(2, u);
        gv = entry(3, v);
        b = entry(4, u);
      }
      const y = entry(0, <i32>load<u8>(row + <usize>i));
      const pixel = byteOf(y + r) | (byteOf(y + gu + gv) << 8) | (byteOf(y + b) << 16);
      store<i32>(out, pixel | (0xff << 24));
    }
  }
}
