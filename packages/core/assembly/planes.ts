// A decoded picture as red, green and blue, see src/stock/read/clip/planes.ts, which says by what equations.

/** Room behind the pixels, and behind the planes: both are gone through four by four. */
const BEYOND: i32 = 16;

/** Where planes can stand, behind the pixels. */
export function planesAt(width: i32, height: i32): i32 {
  return 4 * width * height + BEYOND;
}

/** Bytes of pixels and planes, in this order; the planes are `planeBytes` together. */
export function mixBytes(width: i32, height: i32, planeBytes: i32): i32 {
  return planesAt(width, height) + planeBytes + BEYOND;
}

/** Fixed point, 16 bits behind it. */
const HALF: i32 = 32768;

// @inline
function byteOf(sum: v128): v128 {
  return i32x4.max_s(i32x4.min_s(i32x4.shr_s(sum, 16), i32x4.splat(255)), i32x4.splat(0));
}

/** Two values of a colour for four pixels of a row. */
// @inline
function pairOf(plane: usize, step: usize): v128 {
  const first = i32x4.splat(<i32>load<u8>(plane) - 128);
  const next = <i32>load<u8>(plane + step) - 128;
  return i32x4.replace_lane(i32x4.replace_lane(first, 2, next), 3, next);
}

/**
 * Mixes each pixel from its brightness and the nearest values of the colours. The pixels stand at the beginning of
 * memory.
 *
 * @param luma where brightness stands, `lumaStride` bytes from row to row; blue and red are the same at half the
 * size, `step` bytes from one value to the next
 * @param black what of brightness is black; by `bright` and the others values become 65,536ths of a step
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
  black: i32,
  bright: i32,
  redByV: i32,
  greenByU: i32,
  greenByV: i32,
  blueByU: i32,
): void {
  const opaque = i32x4.splat(0xff << 24);
  for (let j = 0; j < height; j++) {
    const row = <usize>(luma + j * lumaStride);
    const half = (j >> 1) * stride;
    const out = <usize>(4 * j * width);
    for (let i = 0; i < width; i += 4) {
      const c = <usize>(half + (i >> 1) * step);
      const u = pairOf(<usize>blue + c, <usize>step);
      const v = pairOf(<usize>red + c, <usize>step);
      const four = v128.load32_zero(row + <usize>i);
      const wide = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(four));
      const lit = i32x4.mul(i32x4.sub(wide, i32x4.splat(black)), i32x4.splat(bright));
      const y = i32x4.add(lit, i32x4.splat(HALF));
      const r = byteOf(i32x4.add(y, i32x4.mul(v, i32x4.splat(redByV))));
      const green = i32x4.add(
        i32x4.mul(u, i32x4.splat(greenByU)),
        i32x4.mul(v, i32x4.splat(greenByV)),
      );
      const g = byteOf(i32x4.add(y, green));
      const b = byteOf(i32x4.add(y, i32x4.mul(u, i32x4.splat(blueByU))));
      const low = v128.or(r, i32x4.shl(g, 8));
      const pixel = v128.or(v128.or(low, i32x4.shl(b, 16)), opaque);
      v128.store(out + <usize>(4 * i), pixel);
    }
  }
}
