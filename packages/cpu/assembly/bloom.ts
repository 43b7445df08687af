// The pyramid of bloom, and the shrinking of oversampled frames. All work row by row on planes of
// floats whose rows are padded to a multiple of four.

import { arg, argF } from './args';

// Arguments: source plane pointers (3), source width, height, stride; target the same; then extra.
const S = 0;
const SW = 3;
const SH = 4;
const SS = 5;
const T = 6;
const TW = 9;
const TS = 11;
const A = 12;
const B = 13;
const TEMP = 14;

// @inline
function row(plane: i32, y: i32, stride: i32): usize {
  return <usize>plane + ((<usize>(y * stride)) << 2);
}

// @inline
function value(line: usize, x: i32): f32 {
  return load<f32>(line + ((<usize>x) << 2));
}

/**
 * The thread's own row, with room for a copy of the first value before it and of the last behind.
 */
// @inline
function tempRow(args: usize, thread: i32): usize {
  const bytes = (<usize>arg(args, SS) + 16) << 2;
  return <usize>arg(args, TEMP) + <usize>thread * bytes + 16;
}

// @inline
function padEnds(temp: usize, width: i32): void {
  store<f32>(temp - 4, load<f32>(temp));
  const last = temp + ((<usize>(width - 1)) << 2);
  const end = load<f32>(last);
  for (let i: usize = 1; i <= 8; i++) store<f32>(last + (i << 2), end);
}

/**
 * Half the size with weights 1 3 3 1 each way: smooth, and steady when small lights move. With a
 * threshold (word A, 0 or more) light below it is taken off, by the strongest channel.
 */
export function halve(y: i32, args: usize, thread: i32): void {
  const sh = arg(args, SH);
  const ss = arg(args, SS);
  const ts = arg(args, TS);
  const temp = tempRow(args, thread);
  const near = f32x4.splat(0.375);
  const far = f32x4.splat(0.125);
  for (let c = 0; c < 3; c++) {
    const plane = arg(args, S + c);
    const r0 = row(plane, max(2 * y - 1, 0), ss);
    const r1 = row(plane, min(2 * y, sh - 1), ss);
    const r2 = row(plane, min(2 * y + 1, sh - 1), ss);
    const r3 = row(plane, min(2 * y + 2, sh - 1), ss);
    for (let x: usize = 0; x < (<usize>ss) << 2; x += 16) {
      const outer = f32x4.add(v128.load(r0 + x), v128.load(r3 + x));
      const inner = f32x4.add(v128.load(r1 + x), v128.load(r2 + x));
      v128.store(temp + x, f32x4.add(f32x4.mul(outer, far), f32x4.mul(inner, near)));
    }
    padEnds(temp, arg(args, SW));
    const out = row(arg(args, T + c), y, ts);
    for (let x: usize = 0; x < (<usize>ts) << 2; x += 16) {
      // Eight values before, at and after: even and odd ones apart.
      const at = temp + 2 * x;
      const low = v128.load(at);
      const high = v128.load(at, 16);
      const even = v128.shuffle<f32>(low, high, 0, 2, 4, 6);
      const odd = v128.shuffle<f32>(low, high, 1, 3, 5, 7);
      const before = v128.shuffle<f32>(v128.load(at - 4), v128.load(at + 12), 0, 2, 4, 6);
      const after = v128.shuffle<f32>(v128.load(at + 8), v128.load(at + 24), 0, 2, 4, 6);
      const outer = f32x4.mul(f32x4.add(before, after), far);
      v128.store(out + x, f32x4.add(outer, f32x4.mul(f32x4.add(even, odd), near)));
    }
  }
  const threshold = f32x4.splat(argF(args, A));
  if (argF(args, A) <= 0) return;
  const r = row(arg(args, T), y, ts);
  const g = row(arg(args, T + 1), y, ts);
  const b = row(arg(args, T + 2), y, ts);
  for (let x: usize = 0; x < (<usize>ts) << 2; x += 16) {
    const light = f32x4.pmax(f32x4.pmax(v128.load(r + x), v128.load(g + x)), v128.load(b + x));
    const above = f32x4.pmax(f32x4.sub(light, threshold), f32x4.splat(0));
    const keep = f32x4.div(above, f32x4.pmax(light, f32x4.splat(1e-6)));
    v128.store(r + x, f32x4.mul(v128.load(r + x), keep));
    v128.store(g + x, f32x4.mul(v128.load(g + x), keep));
    v128.store(b + x, f32x4.mul(v128.load(b + x), keep));
  }
}

/** target = A · target + B · source at twice the size, straight between its pixels. */
export function addDoubled(y: i32, args: usize, thread: i32): void {
  const sh = arg(args, SH);
  const ss = arg(args, SS);
  const keep = f32x4.splat(argF(args, A));
  const gain = argF(args, B);
  const temp = tempRow(args, thread);
  const middle = min(y >> 1, sh - 1);
  const other = min(max(y & 1 ? middle + 1 : middle - 1, 0), sh - 1);
  const n = f32x4.splat(0.75);
  const o = f32x4.splat(0.25);
  const gains = f32x4.splat(gain);
  for (let c = 0; c < 3; c++) {
    const plane = arg(args, S + c);
    const near = row(plane, middle, ss);
    const far = row(plane, other, ss);
    for (let x: usize = 0; x < (<usize>ss) << 2; x += 16) {
      const mixed = f32x4.add(f32x4.mul(v128.load(near + x), n), f32x4.mul(v128.load(far + x), o));
      v128.store(temp + x, f32x4.mul(mixed, gains));
    }
    padEnds(temp, arg(args, SW));
    const out = row(arg(args, T + c), y, arg(args, TS));
    const bytes = (<usize>arg(args, TS)) << 2;
    for (let x: usize = 0; x < bytes; x += 16) {
      // Four pixels of the target lie over two of the source and one to each side.
      const at = temp + (x >> 1);
      const own = v128.load(at);
      const side = v128.load(at - 4);
      const centre = f32x4.mul(v128.shuffle<f32>(own, own, 0, 0, 1, 1), n);
      const next = f32x4.mul(v128.shuffle<f32>(side, own, 0, 5, 1, 6), o);
      const light = f32x4.add(centre, next);
      v128.store(out + x, f32x4.add(f32x4.mul(v128.load(out + x), keep), light));
    }
  }
}

/** The mean of B × B pixels, B in word B as a whole number. */
export function shrink(y: i32, args: usize, thread: i32): void {
  const ss = arg(args, SS);
  const tw = arg(args, TW);
  const k = arg(args, B);
  const part: f32 = 1 / <f32>(k * k);
  for (let c = 0; c < 3; c++) {
    const out = row(arg(args, T + c), y, arg(args, TS));
    for (let x = 0; x < tw; x++) {
      let sum: f32 = 0;
      for (let j = 0; j < k; j++) {
        const line = row(arg(args, S + c), y * k + j, ss);
        for (let i = 0; i < k; i++) sum += value(line, x * k + i);
      }
      store<f32>(out + ((<usize>x) << 2), sum * part);
    }
  }
}

/** target = A · target + B · source, of equal size. With A = 0 what was there may be anything. */
export function addPlanes(y: i32, args: usize, thread: i32): void {
  const keep = f32x4.splat(argF(args, A));
  const fresh = argF(args, A) == 0;
  const gain = f32x4.splat(argF(args, B));
  const bytes = (<usize>arg(args, SS)) << 2;
  for (let c = 0; c < 3; c++) {
    const from = row(arg(args, S + c), y, arg(args, SS));
    const to = row(arg(args, T + c), y, arg(args, TS));
    for (let x: usize = 0; x < bytes; x += 16) {
      const light = f32x4.mul(v128.load(from + x), gain);
      if (fresh) v128.store(to + x, light);
      else v128.store(to + x, f32x4.add(f32x4.mul(v128.load(to + x), keep), light));
    }
  }
}
