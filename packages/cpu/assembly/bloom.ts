// The pyramid of bloom, and the shrinking of oversampled frames. All work row by row on planes of
// floats whose rows are padded to a multiple of four.

import { arg, argF } from './bins';

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

@inline function row(plane: i32, y: i32, stride: i32): usize {
  return <usize>plane + (<usize>(y * stride) << 2);
}

@inline function value(line: usize, x: i32): f32 {
  return load<f32>(line + (<usize>x << 2));
}

/**
 * Half the size with weights 1 3 3 1 each way: smooth, and steady when small lights move. With a
 * threshold (word A, 0 or more) light below it is taken off, by the strongest channel.
 */
export function halve(y: i32, args: usize, thread: i32): void {
  const sw = arg(args, SW);
  const sh = arg(args, SH);
  const ss = arg(args, SS);
  const tw = arg(args, TW);
  const temp = <usize>arg(args, TEMP) + <usize>thread * (<usize>ss << 2);
  const near = f32x4.splat(0.375);
  const far = f32x4.splat(0.125);
  for (let c = 0; c < 3; c++) {
    const plane = arg(args, S + c);
    const r0 = row(plane, max(2 * y - 1, 0), ss);
    const r1 = row(plane, min(2 * y, sh - 1), ss);
    const r2 = row(plane, min(2 * y + 1, sh - 1), ss);
    const r3 = row(plane, min(2 * y + 2, sh - 1), ss);
    for (let x: usize = 0; x < <usize>ss << 2; x += 16) {
      const outer = f32x4.add(v128.load(r0 + x), v128.load(r3 + x));
      const inner = f32x4.add(v128.load(r1 + x), v128.load(r2 + x));
      v128.store(temp + x, f32x4.add(f32x4.mul(outer, far), f32x4.mul(inner, near)));
    }
    const out = row(arg(args, T + c), y, arg(args, TS));
    for (let x = 0; x < tw; x++) {
      const a = value(temp, max(2 * x - 1, 0)) + value(temp, min(2 * x + 2, sw - 1));
      const b = value(temp, min(2 * x, sw - 1)) + value(temp, min(2 * x + 1, sw - 1));
      store<f32>(out + (<usize>x << 2), a * 0.125 + b * 0.375);
    }
  }
  const threshold = argF(args, A);
  if (threshold > 0) {
    const ts = arg(args, TS);
    const r = row(arg(args, T), y, ts);
    const g = row(arg(args, T + 1), y, ts);
    const b = row(arg(args, T + 2), y, ts);
    for (let x: usize = 0; x < <usize>tw << 2; x += 4) {
      const light = max(max(load<f32>(r + x), load<f32>(g + x)), load<f32>(b + x));
      const keep = max(light - threshold, 0) / max(light, <f32>1e-6);
      store<f32>(r + x, load<f32>(r + x) * keep);
      store<f32>(g + x, load<f32>(g + x) * keep);
      store<f32>(b + x, load<f32>(b + x) * keep);
    }
  }
}

/** target = A · target + B · source at twice the size, straight between its pixels. */
export function addDoubled(y: i32, args: usize, thread: i32): void {
  const sw = arg(args, SW);
  const sh = arg(args, SH);
  const ss = arg(args, SS);
  const tw = arg(args, TW);
  const keep = argF(args, A);
  const gain = argF(args, B);
  const temp = <usize>arg(args, TEMP) + <usize>thread * (<usize>ss << 2);
  const middle = min(y >> 1, sh - 1);
  const other = min(max(y & 1 ? middle + 1 : middle - 1, 0), sh - 1);
  for (let c = 0; c < 3; c++) {
    const plane = arg(args, S + c);
    const near = row(plane, middle, ss);
    const far = row(plane, other, ss);
    const n = f32x4.splat(0.75 * gain);
    const o = f32x4.splat(0.25 * gain);
    for (let x: usize = 0; x < <usize>ss << 2; x += 16) {
      const mixed = f32x4.add(f32x4.mul(v128.load(near + x), n), f32x4.mul(v128.load(far + x), o));
      v128.store(temp + x, mixed);
    }
    const out = row(arg(args, T + c), y, arg(args, TS));
    for (let x = 0; x < tw; x++) {
      const m = min(x >> 1, sw - 1);
      const side = min(max(x & 1 ? m + 1 : m - 1, 0), sw - 1);
      const light = value(temp, m) * 0.75 + value(temp, side) * 0.25;
      const to = out + (<usize>x << 2);
      store<f32>(to, load<f32>(to) * keep + light);
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
      store<f32>(out + (<usize>x << 2), sum * part);
    }
  }
}
