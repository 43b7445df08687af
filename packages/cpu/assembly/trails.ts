// Trails as bands between the places where particles were.

import { arg } from './args';
import { BAND, END, SHADE } from './bands';

// Arguments, in words.
const COUNT = 0;
const ITEMS = 1;
const FILLED = 2;
const PER = 3;
const ROOM = 4;
/** Places of one trail, and the distance from a row of places to the next, in lanes. */
const ROWS = 5;
const LANES = 6;
/** Arrays of rows: as TRAIL in the core's plan/look/draws/draw.ts. */
const X = 7;
const Y = 8;
const NX = 9;
const NY = 10;
const R = 11;
const G = 12;
const B = 13;
const A = 14;
const DEPTH = 15;
const S0 = 16;
const S1 = 17;
const S2 = 18;
const EDGE = 19;

@inline function own(args: usize, word: i32, i: i32): f32 {
  return load<f32>(<usize>arg(args, word) + (<usize>i << 2));
}

@inline function end(args: usize, to: usize, i: i32): void {
  store<f32>(to, own(args, X, i));
  store<f32>(to, own(args, Y, i), 4);
  store<f32>(to, own(args, DEPTH, i), 8);
  store<f32>(to, own(args, A, i), 12);
  store<f32>(to, own(args, R, i), 16);
  store<f32>(to, own(args, G, i), 20);
  store<f32>(to, own(args, B, i), 24);
  store<f32>(to, own(args, NX, i), 28);
  store<f32>(to, own(args, NY, i), 32);
}

/** Puts the bands of one chunk of particles into its room. Places with opacity below 0 are none. */
export function fillTrails(chunk: i32, args: usize, thread: i32): void {
  const per = arg(args, PER);
  const last = min((chunk + 1) * per, arg(args, COUNT));
  const room = arg(args, ROOM);
  const lanes = arg(args, LANES);
  const rows = arg(args, ROWS);
  const base = <usize>arg(args, ITEMS) + <usize>chunk * <usize>room * BAND;
  let n = 0;
  for (let i = chunk * per; i < last; i++) {
    for (let row = 0; row + 1 < rows; row++) {
      const a = row * lanes + i;
      const b = a + lanes;
      const aa = own(args, A, a);
      const ab = own(args, A, b);
      if (!(aa >= 0 && ab >= 0 && aa + ab > 0)) continue;
      const item = base + <usize>n * BAND;
      end(args, item, a);
      end(args, item + END, b);
      store<f32>(item + SHADE, 0.5 * (own(args, S0, a) + own(args, S0, b)));
      store<f32>(item + SHADE, 0.5 * (own(args, S1, a) + own(args, S1, b)), 4);
      store<f32>(item + SHADE, 0.5 * (own(args, S2, a) + own(args, S2, b)), 8);
      store<f32>(item + SHADE, 0.5 * (own(args, EDGE, a) + own(args, EDGE, b)), 12);
      store<f32>(item + SHADE, 0.5 * (own(args, DEPTH, a) + own(args, DEPTH, b)), 16);
      n += 1;
    }
  }
  store<i32>(<usize>arg(args, FILLED) + (<usize>chunk << 2), n);
}
