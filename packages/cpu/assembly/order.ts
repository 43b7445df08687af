// Far to near within one tile's list. Equal distances keep the order of the slots.

import { ENTRY } from './bins';

const BITS: u32 = 11;
const BINS: u32 = 1 << BITS;

/** Falls with distance: depths are positive, so their bits sort as numbers do. */
@inline function key(entries: usize, index: i32): u32 {
  return ~load<u32>(entries + <usize>index * ENTRY, 28);
}

@inline function item(list: usize, i: i32): i32 {
  return load<i32>(list + (<usize>i << 2));
}

@inline function put(list: usize, i: i32, value: i32): void {
  store<i32>(list + (<usize>i << 2), value);
}

function insertion(order: usize, n: i32, entries: usize): void {
  for (let i = 1; i < n; i++) {
    const moving = item(order, i);
    const k = key(entries, moving);
    let j = i - 1;
    for (; j >= 0; j--) {
      const other = item(order, j);
      if (key(entries, other) <= k) break;
      put(order, j + 1, other);
    }
    put(order, j + 1, moving);
  }
}

/** One stable pass of a radix sort over 11 bits; `bins` is scratch of 8 KB. */
function pass(from: usize, to: usize, n: i32, entries: usize, shift: u32, bins: usize): void {
  memory.fill(bins, 0, BINS << 2);
  for (let i = 0; i < n; i++) {
    const b = <i32>((key(entries, item(from, i)) >> shift) & (BINS - 1));
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
    const b = <i32>((key(entries, moving) >> shift) & (BINS - 1));
    const place = item(bins, b);
    put(to, place, moving);
    put(bins, b, place + 1);
  }
}

/** Writes to `order` the entries from 0 to n, far to near; `spare` has as much room. */
export function farToNear(order: usize, spare: usize, n: i32, entries: usize, bins: usize): void {
  for (let i = 0; i < n; i++) put(order, i, i);
  if (n < 48) {
    insertion(order, n, entries);
    return;
  }
  pass(order, spare, n, entries, 0, bins);
  pass(spare, order, n, entries, BITS, bins);
  pass(order, spare, n, entries, 2 * BITS, bins);
  memory.copy(order, spare, <usize>n << 2);
}
