// A picture as grey in cells of a grid.

/** Bytes that a picture takes, with its sums and its cells behind it. */
export function greyBytes(width: i32, height: i32, w: i32, h: i32): i32 {
  return sumsAt(width, height) + 4 * (width + 4) + 4 * w * h;
}

function sumsAt(width: i32, height: i32): i32 {
  return (4 * width * height + 31) & ~15;
}

// @inline
function begin(cell: i32, cells: i32, size: i32): i32 {
  return <i32>((<i64>cell * size + cells - 1) / cells);
}

/**
 * Takes the pixels at the beginning of memory, red, green, blue and opacity a byte each, to means over cells, 0 to 1,
 * rows from the top; gives where those stand. Weights of ITU-R BT.601 in 256ths.
 */
export function grey(width: i32, height: i32, w: i32, h: i32): usize {
  const sums = <usize>sumsAt(width, height);
  const out = sums + <usize>(4 * (width + 4));
  const weights = i16x8(77, 150, 29, 0, 77, 150, 29, 0);
  for (let y = 0; y < h; y++) {
    const first = begin(y, h, height);
    const end = begin(y + 1, h, height);
    memory.fill(sums, 0, <usize>(4 * width));
    for (let j = first; j < end; j++) {
      const row = <usize>(4 * j * width);
      for (let x = 0; x < width; x += 4) {
        const four = v128.load(row + <usize>(4 * x));
        const low = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(four), weights);
        const high = i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(four), weights);
        const one = v128.shuffle<i32>(low, high, 0, 2, 4, 6);
        const two = v128.shuffle<i32>(low, high, 1, 3, 5, 7);
        const at = sums + <usize>(4 * x);
        v128.store(at, i32x4.add(v128.load(at), i32x4.add(one, two)));
      }
    }
    for (let x = 0; x < w; x++) {
      const from = begin(x, w, width);
      const to = begin(x + 1, w, width);
      let sum: f32 = 0;
      for (let i = from; i < to; i++) sum += <f32>load<i32>(sums + <usize>(4 * i));
      const pixels = <f32>((to - from) * (end - first));
      store<f32>(out + <usize>(4 * (y * w + x)), sum / (pixels * <f32>65280));
    }
  }
  return out;
}
