// Links as they are drawn: bands between particles, and triangles between three that are linked. Which
// are linked linkSearch.ts has found.

import { arg, argF, own, whole } from './args';
import { Links, Size } from './generated/words';
import { END, SHADE } from './bands';
import { CORNER, TRIANGLE_DEPTH } from './triangles';

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
