// Far to near within one tile's list. Equal distances keep the order of the slots.

const BITS: u32 = 11;
const BINS: u32 = 1 << BITS;

/** Falls with distance: depths are positive, so their bits sort as numbers do. */
@inline function key(depth: usize, index: i32): u32 {
  return ~load<u32>(depth + (<usize>index << 2));
}

function insertion(list: usize, n: i32, depth: usize): void {
  for (let i = 1; i < n; i++) {
    const item = load<i32>(list + (<usize>i << 2));
    const k = key(depth, item);
    let j = i - 1;
    for (; j >= 0; j--) {
      const other = load<i32>(list + (<usize>j << 2));
      if (key(depth, other) <= k) break;
      store<i32>(list + (<usize>(j + 1) << 2), other);
    }
    store<i32>(list + (<usize>(j + 1) << 2), item);
  }
}

/** One stable pass of a radix sort over 11 bits; `bins` is scratch of 8 KB. */
function pass(from: usize, to: usize, n: i32, depth: usize, shift: u32, bins: usize): void {
  memory.fill(bins, 0, BINS << 2);
  for (let i = 0; i < n; i++) {
    const b = (key(depth, load<i32>(from + (<usize>i << 2))) >> shift) & (BINS - 1);
    const slot = bins + (<usize>b << 2);
    store<i32>(slot, load<i32>(slot) + 1);
  }
  let sum = 0;
  for (let b: u32 = 0; b < BINS; b++) {
    const slot = bins + (<usize>b << 2);
    const c = load<i32>(slot);
    store<i32>(slot, sum);
    sum += c;
  }
  for (let i = 0; i < n; i++) {
    const item = load<i32>(from + (<usize>i << 2));
    const slot = bins + (<usize>((key(depth, item) >> shift) & (BINS - 1)) << 2);
    const place = load<i32>(slot);
    store<i32>(to + (<usize>place << 2), item);
    store<i32>(slot, place + 1);
  }
}

export function farToNear(list: usize, spare: usize, n: i32, depth: usize, bins: usize): void {
  if (n < 48) {
    insertion(list, n, depth);
    return;
  }
  pass(list, spare, n, depth, 0, bins);
  pass(spare, list, n, depth, BITS, bins);
  pass(list, spare, n, depth, 2 * BITS, bins);
  memory.copy(list, spare, <usize>n << 2);
}
