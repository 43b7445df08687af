// Which particles are linked: pairs nearer than a radius. Which of them are kept is a matter of a fixed
// random order of all pairs, so that a pair does not come and go while its neighbours move: a pair is
// kept where it is among the first few of both its ends.

import { arg, argF, own, whole } from './args';
import { Links } from './generated/words';

/** Most that is looked at in one cell. */
const CROWD: i32 = 256;
/** The cell of a particle and those around it. */
const CELLS: i32 = 27;
/** Where a thread's room has the cells that are looked through, behind the pairs found. */
const LOOKED: usize = 4096;

// @inline
function cellOf(v: f32, inverse: f32): i32 {
  return <i32>min(max(Mathf.floor(v * inverse), <f32>-1e6), <f32>1e6);
}

// @inline
function mixed(x: v128): v128 {
  let h = v128.xor(x, i32x4.shr_u(x, 16));
  h = i32x4.mul(h, i32x4.splat(0x7feb352d));
  h = v128.xor(h, i32x4.shr_u(h, 15));
  h = i32x4.mul(h, i32x4.splat(0x846ca68b));
  return v128.xor(h, i32x4.shr_u(h, 16));
}

/** The places of four pairs in the order of all pairs. */
// @inline
function rankOf(i: v128, j: v128): v128 {
  const high = i32x4.mul(i32x4.max_u(i, j), i32x4.splat(0x9e3779b1));
  return mixed(v128.xor(mixed(i32x4.min_u(i, j)), high));
}

/** The numbers of the cells round a place, each once, at `to`; gives how many. */
function cellsRound(args: usize, i: i32, to: usize): i32 {
  const inverse = argF(args, Links.INVERSE_SIDE);
  const mask = arg(args, Links.MASK);
  const x = cellOf(own(args, Links.PX, i), inverse) - 1;
  const y = cellOf(own(args, Links.PY, i), inverse) - 1;
  const z = cellOf(own(args, Links.PZ, i), inverse) - 1;
  let n = 0;
  for (let turn = 0; turn < CELLS; turn++) {
    const ox = x + (turn % 3);
    const oy = y + ((turn / 3) % 3);
    const oz = z + turn / 9;
    const cell = ((ox * 73856093) ^ (oy * 19349663) ^ (oz * 83492791)) & mask;
    // Two cells can share a number; what is in them is met once.
    let before = 0;
    while (before < n && load<i32>(to + ((<usize>before) << 2)) != cell) before += 1;
    if (before < n) continue;
    store<i32>(to + ((<usize>n) << 2), cell);
    n += 1;
  }
  return n;
}

/** Puts a pair where it belongs among the first `n`, of at most `most`; gives how many there are then. */
// @inline
function put(seen: usize, n: i32, most: i32, rank: u32, j: i32): i32 {
  if (n >= most && rank >= load<u32>(seen + ((<usize>(most - 1)) << 3))) return n;
  let at = min(n, most - 1);
  for (; at > 0 && load<u32>(seen + ((<usize>(at - 1)) << 3)) > rank; at--) {
    store<u64>(seen + ((<usize>at) << 3), load<u64>(seen + ((<usize>(at - 1)) << 3)));
  }
  store<u32>(seen + ((<usize>at) << 3), rank);
  store<i32>(seen + ((<usize>at) << 3), j, 4);
  return min(n + 1, most);
}

/** Counts, and with `seen` keeps in order of rank, the first neighbours of a slot. */
function gather(args: usize, i: i32, seen: usize, most: i32): i32 {
  const x = f32x4.splat(own(args, Links.PX, i));
  const y = f32x4.splat(own(args, Links.PY, i));
  const z = f32x4.splat(own(args, Links.PZ, i));
  const radius = argF(args, Links.RADIUS);
  const near = f32x4.splat(radius * radius);
  const start = <usize>arg(args, Links.START);
  const order = <usize>arg(args, Links.ORDER);
  const nearX = <usize>arg(args, Links.NEAR_X);
  const nearY = <usize>arg(args, Links.NEAR_Y);
  const nearZ = <usize>arg(args, Links.NEAR_Z);
  // Of a piece that loops each round is linked by itself, by its numbers in the round.
  const ids = arg(args, Links.ROUND_IDS);
  const base = i32x4.splat(i - (i % ids));
  const mine = i32x4.splat(i % ids);
  const self = i32x4.splat(i);
  const cells = cellsRound(args, i, seen + LOOKED);
  let n = 0;
  for (let c = 0; c < cells; c++) {
    const cell = <usize>load<i32>(seen + LOOKED + ((<usize>c) << 2));
    const begin = load<i32>(start + (cell << 2));
    const stop = min(load<i32>(start + (cell << 2), 4), begin + CROWD);
    for (let k = begin; k < stop; k += 4) {
      const at = (<usize>k) << 2;
      const dx = f32x4.sub(v128.load(nearX + at), x);
      const dy = f32x4.sub(v128.load(nearY + at), y);
      const dz = f32x4.sub(v128.load(nearZ + at), z);
      const far = f32x4.add(f32x4.add(f32x4.mul(dx, dx), f32x4.mul(dy, dy)), f32x4.mul(dz, dz));
      const j = v128.load(order + at);
      const other = v128.andnot(f32x4.lt(far, near), i32x4.eq(j, self));
      let found = i32x4.bitmask(other) & ((1 << min(4, stop - k)) - 1);
      const number = i32x4.sub(j, base);
      found &= i32x4.bitmask(i32x4.lt_u(number, i32x4.splat(ids)));
      if (found == 0) continue;
      const rank = rankOf(mine, number);
      if (n == most) {
        const last = v128.load32_splat(seen + ((<usize>(most - 1)) << 3));
        found &= i32x4.bitmask(i32x4.lt_u(rank, last));
      }
      if (found & 1) n = put(seen, n, most, i32x4.extract_lane(rank, 0), i32x4.extract_lane(j, 0));
      if (found & 2) n = put(seen, n, most, i32x4.extract_lane(rank, 1), i32x4.extract_lane(j, 1));
      if (found & 4) n = put(seen, n, most, i32x4.extract_lane(rank, 2), i32x4.extract_lane(j, 2));
      if (found & 8) n = put(seen, n, most, i32x4.extract_lane(rank, 3), i32x4.extract_lane(j, 3));
    }
  }
  return n;
}

// @inline
function lives(args: usize, i: i32): bool {
  const age = own(args, Links.AGE, i);
  return age >= 0 && age < own(args, Links.LIFE, i);
}

/** First: the pairs that each particle would keep, and how far down the order they go. */
export function rankLinks(chunk: i32, args: usize, thread: i32): void {
  const per = arg(args, Links.PER);
  const last = min((chunk + 1) * per, arg(args, Links.COUNT));
  const most = arg(args, Links.MOST);
  const seen = <usize>arg(args, Links.SCRATCH) + ((<usize>thread) << 13);
  for (let i = chunk * per; i < last; i++) {
    const living = lives(args, i);
    const n = living ? gather(args, i, seen, most) : 0;
    for (let k = 0; k < n; k++) {
      const at = (<usize>(i * most + k)) << 2;
      const pair = seen + ((<usize>k) << 3);
      store<u32>(<usize>arg(args, Links.PAIR_RANKS) + at, load<u32>(pair));
      store<i32>(<usize>arg(args, Links.ENDS) + at, load<i32>(pair, 4));
    }
    const full = n == most ? load<u32>(seen + ((<usize>(most - 1)) << 3)) : 0xffffffff;
    store<u32>(<usize>arg(args, Links.RANKS) + ((<usize>i) << 2), living ? full : 0);
    store<i32>(<usize>arg(args, Links.KEPT) + ((<usize>i) << 2), n);
  }
}

/** Then: of those the pairs that both ends keep, each with its end of the lower slot. */
export function keepLinks(chunk: i32, args: usize, thread: i32): void {
  const per = arg(args, Links.PER);
  const last = min((chunk + 1) * per, arg(args, Links.COUNT));
  const most = arg(args, Links.MOST);
  for (let i = chunk * per; i < last; i++) {
    const n = whole(args, Links.KEPT, i);
    let kept = 0;
    for (let k = 0; k < n; k++) {
      const rank = <u32>whole(args, Links.PAIR_RANKS, i * most + k);
      const j = whole(args, Links.ENDS, i * most + k);
      if (j < i || rank > <u32>whole(args, Links.RANKS, j)) continue;
      const at = (<usize>(i * most + kept)) << 2;
      store<i32>(<usize>arg(args, Links.ENDS) + at, j);
      store<u32>(<usize>arg(args, Links.PAIR_RANKS) + at, rank);
      kept += 1;
    }
    store<i32>(<usize>arg(args, Links.KEPT) + ((<usize>i) << 2), kept);
  }
}

/** Where there are more than TOTAL, takes away the last ones in the order. */
export function limitLinks(task: i32, args: usize, thread: i32): void {
  const count = arg(args, Links.COUNT);
  const total = arg(args, Links.TOTAL_LINKS);
  const most = arg(args, Links.MOST);
  let sum = 0;
  for (let i = 0; i < count; i++) sum += whole(args, Links.KEPT, i);
  if (sum <= total) return;
  // The rank at place `total`, eight bits at a time from the top.
  const bins = <usize>arg(args, Links.SCRATCH) + ((<usize>thread) << 13);
  let prefix: u32 = 0;
  let left = total;
  for (let shift = 24; shift >= 0; shift -= 8) {
    memory.fill(bins, 0, 1024);
    for (let i = 0; i < count; i++) {
      const kept = whole(args, Links.KEPT, i);
      for (let k = 0; k < kept; k++) {
        const rank = <u32>whole(args, Links.PAIR_RANKS, i * most + k);
        const above: u32 = shift == 24 ? 0 : rank >> (shift + 8);
        if (shift != 24 && above != prefix) continue;
        const bin = bins + ((<usize>((rank >> shift) & 255)) << 2);
        store<i32>(bin, load<i32>(bin) + 1);
      }
    }
    let bin: u32 = 0;
    while (load<i32>(bins + ((<usize>bin) << 2)) <= left && bin < 255) {
      left -= load<i32>(bins + ((<usize>bin) << 2));
      bin += 1;
    }
    prefix = (prefix << 8) | bin;
  }
  // Ranks below the one found stay.
  for (let i = 0; i < count; i++) {
    const kept = whole(args, Links.KEPT, i);
    let n = 0;
    for (let k = 0; k < kept; k++) {
      if (<u32>whole(args, Links.PAIR_RANKS, i * most + k) >= prefix) continue;
      const to = (<usize>(i * most + n)) << 2;
      store<i32>(<usize>arg(args, Links.ENDS) + to, whole(args, Links.ENDS, i * most + k));
      n += 1;
    }
    store<i32>(<usize>arg(args, Links.KEPT) + ((<usize>i) << 2), n);
  }
}
