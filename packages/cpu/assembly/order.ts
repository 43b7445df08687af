// Far to near, or near to far, within one tile's list. Equal distances keep the order of the list.

import { arg } from './args';
import { Tiles } from './generated/words';

const BITS: u32 = 11;
const BINS: u32 = 1 << BITS;

/** Keys of the order near to far and far to near: depths are positive, so their bits sort as numbers do. */
const NEAR: u32 = 0;
const FAR: u32 = ~0;

// @inline
function key(way: u32, depths: usize, step: usize, index: i32): u32 {
  return load<u32>(depths + <usize>index * step) ^ way;
}

// @inline
function item(list: usize, i: i32): i32 {
  return load<i32>(list + ((<usize>i) << 2));
}

// @inline
function put(list: usize, i: i32, value: i32): void {
  store<i32>(list + ((<usize>i) << 2), value);
}

function insertion(order: usize, n: i32, depths: usize, step: usize): void {
  for (let i = 1; i < n; i++) {
    const moving = item(order, i);
    const k = key(FAR, depths, step, moving);
    let j = i - 1;
    for (; j >= 0; j--) {
      const other = item(order, j);
      if (key(FAR, depths, step, other) <= k) break;
      put(order, j + 1, other);
    }
    put(order, j + 1, moving);
  }
}

/** One stable pass of a radix sort over 11 bits; `bins` is scratch of 8 KB. */
function pass(
  from: usize,
  to: usize,
  n: i32,
  depths: usize,
  step: usize,
  shift: u32,
  bins: usize,
  way: u32,
): void {
  memory.fill(bins, 0, BINS << 2);
  for (let i = 0; i < n; i++) {
    const b = <i32>((key(way, depths, step, item(from, i)) >> shift) & (BINS - 1));
    put(bins, b, item(bins, b) + 1);
  }
  let sum = 0;
  for (let b: i32 = 0; b < <i32>BINS; b++) {
    const c = item(bins, b);
    put(bins, b, sum);
    sum += c;
  }
  for (let i = 0; i < n; i++) {
    const moving = item(from, i);
    const b = <i32>((key(way, depths, step, moving) >> shift) & (BINS - 1));
    const place = item(bins, b);
    put(to, place, moving);
    put(bins, b, place + 1);
  }
}

/**
 * Sorts the numbers in `order`, which belong to a tile's list from `begin` on, by the depths at
 * `depths`, `step` bytes from one to the next.
 */
export function farToNear(
  args: usize,
  order: usize,
  begin: i32,
  n: i32,
  depths: usize,
  step: usize,
  thread: i32,
): void {
  const spare = <usize>arg(args, Tiles.SPARE) + ((<usize>begin) << 2);
  const bins = <usize>arg(args, Tiles.SCRATCH) + ((<usize>thread) << 13);
  if (n < 48) {
    insertion(order, n, depths, step);
    return;
  }
  pass(order, spare, n, depths, step, 0, bins, FAR);
  pass(spare, order, n, depths, step, BITS, bins, FAR);
  pass(order, spare, n, depths, step, 2 * BITS, bins, FAR);
  memory.copy(order, spare, (<usize>n) << 2);
}

/** Bits of a depth that near to far leaves out: what is left tells a part in 8000 apart. */
const COARSE: u32 = 9;

/** Sorts the numbers in `order` near to far, about: what is as good as equally near keeps its order. */
export function nearToFar(
  args: usize,
  order: usize,
  begin: i32,
  n: i32,
  depths: usize,
  step: usize,
  thread: i32,
): void {
  const spare = <usize>arg(args, Tiles.SPARE) + ((<usize>begin) << 2);
  const bins = <usize>arg(args, Tiles.SCRATCH) + ((<usize>thread) << 13);
  pass(order, spare, n, depths, step, COARSE, bins, NEAR);
  pass(spare, order, n, depths, step, COARSE + BITS, bins, NEAR);
}
