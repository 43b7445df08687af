// Links between particles nearer than a radius. Which pairs are kept is a matter of a fixed random
// order of all pairs, so that a pair does not come and go while its neighbours move: a pair is
// kept where it is among the first few of both its ends.

import { arg, argF, own, whole } from './args';
import { Links, Size } from './generated/words';
import { END, SHADE } from './bands';
import { CORNER, TRIANGLE_DEPTH } from './triangles';

/** Most that is looked at in one cell. */
const CROWD: i32 = 256;

// @inline
function cellOf(v: f32, inverse: f32): i32 {
  return <i32>min(max(Mathf.floor(v * inverse), <f32>-1e6), <f32>1e6);
}

// @inline
function mixed(x: u32): u32 {
  let h = x;
  h = (h ^ (h >> 16)) * 0x7feb352d;
  h = (h ^ (h >> 15)) * 0x846ca68b;
  return h ^ (h >> 16);
}

/** The place of a pair in the order of all pairs. */
// @inline
function rankOf(i: i32, j: i32): u32 {
  return mixed(mixed(<u32>min(i, j)) ^ (<u32>max(i, j) * 0x9e3779b1));
}

/** Counts, and with `seen` keeps in order of rank, the first neighbours of a slot. */
function gather(args: usize, i: i32, seen: usize, most: i32): i32 {
  const x = own(args, Links.PX, i);
  const y = own(args, Links.PY, i);
  const z = own(args, Links.PZ, i);
  const inverse = argF(args, Links.INVERSE_SIDE);
  const mask = arg(args, Links.MASK);
  const radius = argF(args, Links.RADIUS);
  const start = <usize>arg(args, Links.START);
  const cx = cellOf(x, inverse);
  const cy = cellOf(y, inverse);
  const cz = cellOf(z, inverse);
  let n = 0;
  for (let turn = 0; turn < 27; turn++) {
    const ox = cx + (turn % 3) - 1;
    const oy = cy + ((turn / 3) % 3) - 1;
    const oz = cz + turn / 9 - 1;
    const cell = ((ox * 73856093) ^ (oy * 19349663) ^ (oz * 83492791)) & mask;
    const begin = load<i32>(start + ((<usize>cell) << 2));
    const stop = min(load<i32>(start + ((<usize>cell) << 2), 4), begin + CROWD);
    for (let k = begin; k < stop; k++) {
      const j = whole(args, Links.ORDER, k);
      if (j == i) continue;
      const jx = own(args, Links.PX, j);
      const jy = own(args, Links.PY, j);
      const jz = own(args, Links.PZ, j);
      // Other cells can share the number.
      if (cellOf(jx, inverse) != ox || cellOf(jy, inverse) != oy || cellOf(jz, inverse) != oz)
        continue;
      const dx = jx - x;
      const dy = jy - y;
      const dz = jz - z;
      if (!(dx * dx + dy * dy + dz * dz < radius * radius)) continue;
      const rank = rankOf(i, j);
      let at = min(n, most);
      if (n >= most && rank >= load<u32>(seen + ((<usize>(most - 1)) << 3))) continue;
      if (n < most) n += 1;
      else at = most - 1;
      for (; at > 0 && load<u32>(seen + ((<usize>(at - 1)) << 3)) > rank; at--) {
        store<u64>(seen + ((<usize>at) << 3), load<u64>(seen + ((<usize>(at - 1)) << 3)));
      }
      store<u32>(seen + ((<usize>at) << 3), rank);
      store<i32>(seen + ((<usize>at) << 3), j, 4);
    }
  }
  return n;
}

// @inline
function lives(args: usize, i: i32): bool {
  const age = own(args, Links.AGE, i);
  return age >= 0 && age < own(args, Links.LIFE, i);
}

/** First: how far down the order each particle's own links go. */
export function rankLinks(chunk: i32, args: usize, thread: i32): void {
  const per = arg(args, Links.PER);
  const last = min((chunk + 1) * per, arg(args, Links.COUNT));
  const most = arg(args, Links.MOST);
  const seen = <usize>arg(args, Links.SCRATCH) + ((<usize>thread) << 13);
  for (let i = chunk * per; i < last; i++) {
    let rank: u32 = 0;
    if (lives(args, i)) {
      const n = gather(args, i, seen, most);
      rank = n < most ? 0xffffffff : load<u32>(seen + ((<usize>(most - 1)) << 3));
    }
    store<u32>(<usize>arg(args, Links.RANKS) + ((<usize>i) << 2), rank);
  }
}

/** Then: the pairs that both ends keep, each with its end of the lower slot. */
export function keepLinks(chunk: i32, args: usize, thread: i32): void {
  const per = arg(args, Links.PER);
  const last = min((chunk + 1) * per, arg(args, Links.COUNT));
  const most = arg(args, Links.MOST);
  const seen = <usize>arg(args, Links.SCRATCH) + ((<usize>thread) << 13);
  for (let i = chunk * per; i < last; i++) {
    let kept = 0;
    const n = lives(args, i) ? gather(args, i, seen, most) : 0;
    for (let k = 0; k < n; k++) {
      const rank = load<u32>(seen + ((<usize>k) << 3));
      const j = load<i32>(seen + ((<usize>k) << 3), 4);
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

/** Part of a link's opacity by its length: all at 0, none at the radius. */
// @inline
function fade(args: usize, i: i32, j: i32): f32 {
  const dx = own(args, Links.PX, i) - own(args, Links.PX, j);
  const dy = own(args, Links.PY, i) - own(args, Links.PY, j);
  const dz = own(args, Links.PZ, i) - own(args, Links.PZ, j);
  return max<f32>(0, 1 - sqrt<f32>(dx * dx + dy * dy + dz * dz) / argF(args, Links.RADIUS));
}

// @inline
function end(args: usize, to: usize, i: i32, part: f32, nx: f32, ny: f32): void {
  const width = own(args, Links.LW, i);
  store<f32>(to, own(args, Links.LX, i));
  store<f32>(to, own(args, Links.LY, i), 4);
  store<f32>(to, own(args, Links.LZ, i), 8);
  store<f32>(to, own(args, Links.LA, i) * part, 12);
  store<f32>(to, own(args, Links.LR, i) * part, 16);
  store<f32>(to, own(args, Links.LG, i) * part, 20);
  store<f32>(to, own(args, Links.LB, i) * part, 24);
  store<f32>(to, nx * width, 28);
  store<f32>(to, ny * width, 32);
}

/** Puts the links of one chunk of particles into its room, as bands. */
export function fillLinks(chunk: i32, args: usize, thread: i32): void {
  const per = arg(args, Links.PER);
  const last = min((chunk + 1) * per, arg(args, Links.COUNT));
  const most = arg(args, Links.MOST);
  const base =
    <usize>arg(args, Links.ITEMS) + <usize>chunk * <usize>arg(args, Links.ROOM) * Size.BAND_BYTES;
  let n = 0;
  for (let i = chunk * per; i < last; i++) {
    const kept = whole(args, Links.KEPT, i);
    for (let k = 0; k < kept; k++) {
      const j = whole(args, Links.ENDS, i * most + k);
      if (!(own(args, Links.LA, i) >= 0 && own(args, Links.LA, j) >= 0)) continue;
      const dx = own(args, Links.LX, j) - own(args, Links.LX, i);
      const dy = own(args, Links.LY, j) - own(args, Links.LY, i);
      const length = sqrt<f32>(dx * dx + dy * dy);
      if (!(length > 1e-3)) continue;
      const part = fade(args, i, j);
      const item = base + <usize>n * Size.BAND_BYTES;
      end(args, item, i, part, -dy / length, dx / length);
      end(args, item + END, j, part, -dy / length, dx / length);
      store<f32>(item + SHADE, 1);
      store<f32>(item + SHADE, 0, 4);
      store<f32>(item + SHADE, 0, 8);
      store<f32>(item + SHADE, own(args, Links.LE, i), 12);
      store<f32>(item + SHADE, 0.5 * (own(args, Links.LZ, i) + own(args, Links.LZ, j)), 16);
      n += 1;
    }
  }
  store<i32>(<usize>arg(args, Links.FILLED) + ((<usize>chunk) << 2), n);
}

function linked(args: usize, i: i32, j: i32): bool {
  const most = arg(args, Links.MOST);
  const kept = whole(args, Links.KEPT, i);
  for (let k = 0; k < kept; k++) if (whole(args, Links.ENDS, i * most + k) == j) return true;
  return false;
}

function corner(args: usize, to: usize, i: i32, part: f32): void {
  const depth = own(args, Links.LZ, i);
  store<f32>(to, own(args, Links.LX, i));
  store<f32>(to, own(args, Links.LY, i), 4);
  store<f32>(to, arg(args, Links.PERSPECTIVE) != 0 ? 1 / depth : depth, 8);
  store<f32>(to, own(args, Links.LR, i) * part, 12);
  store<f32>(to, own(args, Links.LG, i) * part, 16);
  store<f32>(to, own(args, Links.LB, i) * part, 20);
  store<f32>(to, own(args, Links.LA, i) * part, 24);
}

/** The triangles of one chunk whose three sides are links; each with its corner of the lowest slot. */
export function fillFaces(chunk: i32, args: usize, thread: i32): void {
  const per = arg(args, Links.PER);
  const last = min((chunk + 1) * per, arg(args, Links.COUNT));
  const most = arg(args, Links.MOST);
  const base =
    <usize>arg(args, Links.ITEMS) +
    <usize>chunk * <usize>arg(args, Links.ROOM) * Size.TRIANGLE_BYTES;
  const fill = argF(args, Links.FILL);
  let n = 0;
  for (let i = chunk * per; i < last; i++) {
    const kept = whole(args, Links.KEPT, i);
    for (let a = 0; a < kept; a++) {
      for (let b = a + 1; b < kept; b++) {
        const j = min(whole(args, Links.ENDS, i * most + a), whole(args, Links.ENDS, i * most + b));
        const k = max(whole(args, Links.ENDS, i * most + a), whole(args, Links.ENDS, i * most + b));
        if (!linked(args, j, k)) continue;
        if (!(
          own(args, Links.LA, i) >= 0 &&
          own(args, Links.LA, j) >= 0 &&
          own(args, Links.LA, k) >= 0
        ))
          continue;
        const part = fill * min(fade(args, i, j), min(fade(args, i, k), fade(args, j, k)));
        const item = base + <usize>n * Size.TRIANGLE_BYTES;
        corner(args, item, i, part);
        corner(args, item + CORNER, j, part);
        corner(args, item + 2 * CORNER, k, part);
        const depth = own(args, Links.LZ, i) + own(args, Links.LZ, j) + own(args, Links.LZ, k);
        store<f32>(item + TRIANGLE_DEPTH, depth / 3);
        n += 1;
      }
    }
  }
  store<i32>(<usize>arg(args, Links.FILLED) + ((<usize>chunk) << 2), n);
}
