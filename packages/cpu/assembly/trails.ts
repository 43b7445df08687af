// Trails as bands between the places where particles were.

import { arg, own } from './args';
import { Size, Trails } from './generated/words';
import { END, SHADE } from './bands';

// @inline
function end(args: usize, to: usize, i: i32): void {
  store<f32>(to, own(args, Trails.TX, i));
  store<f32>(to, own(args, Trails.TY, i), 4);
  store<f32>(to, own(args, Trails.TZ, i), 8);
  store<f32>(to, own(args, Trails.TA, i), 12);
  store<f32>(to, own(args, Trails.TR, i), 16);
  store<f32>(to, own(args, Trails.TG, i), 20);
  store<f32>(to, own(args, Trails.TB, i), 24);
  store<f32>(to, own(args, Trails.TNX, i), 28);
  store<f32>(to, own(args, Trails.TNY, i), 32);
}

/** Puts the bands of one chunk of particles into its room. Places with opacity below 0 are none. */
export function fillTrails(chunk: i32, args: usize, thread: i32): void {
  const per = arg(args, Trails.PER);
  const last = min((chunk + 1) * per, arg(args, Trails.COUNT));
  const room = arg(args, Trails.ROOM);
  const lanes = arg(args, Trails.LANES);
  const rows = arg(args, Trails.ROWS);
  const base = <usize>arg(args, Trails.ITEMS) + <usize>chunk * <usize>room * Size.BAND_BYTES;
  let n = 0;
  for (let i = chunk * per; i < last; i++) {
    for (let row = 0; row + 1 < rows; row++) {
      const a = row * lanes + i;
      const b = a + lanes;
      const aa = own(args, Trails.TA, a);
      const ab = own(args, Trails.TA, b);
      if (!(aa >= 0 && ab >= 0 && aa + ab > 0)) continue;
      const item = base + <usize>n * Size.BAND_BYTES;
      end(args, item, a);
      end(args, item + END, b);
      store<f32>(item + SHADE, 0.5 * (own(args, Trails.TS0, a) + own(args, Trails.TS0, b)));
      store<f32>(item + SHADE, 0.5 * (own(args, Trails.TS1, a) + own(args, Trails.TS1, b)), 4);
      store<f32>(item + SHADE, 0.5 * (own(args, Trails.TS2, a) + own(args, Trails.TS2, b)), 8);
      store<f32>(item + SHADE, 0.5 * (own(args, Trails.TE, a) + own(args, Trails.TE, b)), 12);
      store<f32>(item + SHADE, 0.5 * (own(args, Trails.TZ, a) + own(args, Trails.TZ, b)), 16);
      n += 1;
    }
  }
  store<i32>(<usize>arg(args, Trails.FILLED) + ((<usize>chunk) << 2), n);
}
