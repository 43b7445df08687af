// Places of a picture as often as they weigh, see src/sections/swarms/emitters/movingPicture.ts.

/** Bytes of a picture with tables of light and of luminance behind it, what each place weighs, and what is found. */
export function chooseBytes(width: i32, height: i32, every: i32, most: i32): i32 {
  const places = cells(width, every) * cells(height, every);
  return weightsAt(width, height) + 4 * places + 4 * (1 + 5 * most);
}

/** Where 256 numbers of light stand, and behind them the parts of luminance of red, green and blue, 256 each. */
export function lightAt(width: i32, height: i32): i32 {
  return (4 * width * height + 15) & ~15;
}

// @inline
function weightsAt(width: i32, height: i32): i32 {
  return lightAt(width, height) + 4 * 4 * 256;
}

// @inline
function cells(size: i32, every: i32): i32 {
  return (size + every - 1) / every;
}

/** The amount at a pixel; below 0 where there is none. */
// @inline
function valueOf(pixel: usize, lit: bool, parts: usize): f64 {
  const alpha = load<u8>(pixel, 3);
  if (alpha == 0) return -1;
  const value = <f64>alpha / 255;
  if (!lit) return value;
  const red = load<f32>(parts + ((<usize>load<u8>(pixel)) << 2));
  const green = load<f32>(parts + 1024 + ((<usize>load<u8>(pixel, 1)) << 2));
  const blue = load<f32>(parts + 2048 + ((<usize>load<u8>(pixel, 2)) << 2));
  return value * (<f64>red + <f64>green + <f64>blue);
}

/**
 * Finds places at even steps along the sum of all weights. What is given back is where they stand: how many, then
 * five lists of `most`: x, y, in longer sides of the picture from its middle, and linear light.
 *
 * @param lit whether brightness weighs, or opacity alone
 * @param even whether all that passes the limit weighs the same
 */
export function choose(
  width: i32,
  height: i32,
  every: i32,
  lit: bool,
  even: bool,
  limit: f64,
  most: i32,
): usize {
  const columns = cells(width, every);
  const count = columns * cells(height, every);
  const light = <usize>lightAt(width, height);
  const weights = <usize>weightsAt(width, height);
  const block = weights + ((<usize>count) << 2);
  let passing = 0;
  let total: f64 = 0;
  let at = weights;
  for (let y = 0; y < height; y += every) {
    for (let x = 0; x < width; x += every, at += 4) {
      const value = valueOf(<usize>(4 * (y * width + x)), lit, light + 1024);
      if (value < limit) {
        store<f32>(at, 0);
        continue;
      }
      const weight: f64 = even ? 1 : value;
      store<f32>(at, <f32>weight);
      passing++;
      total += weight;
    }
  }
  const wanted = even ? min(passing, most) : total > 0 ? most : 0;
  memory.fill(block, 0, (<usize>(1 + 5 * most)) << 2);
  store<f32>(block, <f32>wanted);
  put(width, height, every, columns, count, total / <f64>wanted, wanted, block, most);
  return block;
}

/** Writes the places, so many at steps of the sum. */
function put(
  width: i32,
  height: i32,
  every: i32,
  columns: i32,
  count: i32,
  step: f64,
  wanted: i32,
  block: usize,
  most: i32,
): void {
  const light = <usize>lightAt(width, height);
  const weights = <usize>weightsAt(width, height);
  const side: f64 = 1.0 / <f64>max(width, height);
  const list = (<usize>most) << 2;
  let sum: f64 = 0;
  let chosen = 0;
  let next = step / 2;
  for (let k = 0; k < count && chosen < wanted; k++) {
    sum += <f64>load<f32>(weights + ((<usize>k) << 2));
    for (; chosen < wanted && sum > next; next = (<f64>chosen + 0.5) * step) {
      const x = every * (k % columns);
      const y = every * (k / columns);
      const out = block + ((<usize>(1 + chosen)) << 2);
      const half = <f64>every / 2;
      store<f32>(out, <f32>((<f64>x + half - <f64>width / 2) * side));
      store<f32>(out + list, <f32>((<f64>height / 2 - <f64>y - half) * side));
      const pixel = <usize>(4 * (y * width + x));
      for (let c: usize = 0; c < 3; c++) {
        const code = <usize>load<u8>(pixel + c);
        store<f32>(out + (2 + c) * list, load<f32>(light + (code << 2)));
      }
      chosen++;
    }
  }
}
