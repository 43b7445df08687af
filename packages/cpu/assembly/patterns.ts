// What a mark looks like within its own square, u and v from -1 to 1; see catalogue/bodies/patterns.ts
// in the core for the same formulas.

import { arg, argF, ASPECT, ASPECT_U, BLADES, FLATS, PARAM } from './args';

export const DISC: i32 = 0;
export const RING: i32 = 1;
export const SQUARE: i32 = 2;
export const SPARK: i32 = 3;
export const PUFF: i32 = 4;
export const PICTURES: i32 = 5;

@inline function one(): v128 {
  return f32x4.splat(1);
}

/** t² with t = edge · inside, from 0 to 1. */
@inline function edged(inside: v128, edge: v128): v128 {
  const t = f32x4.pmin(f32x4.mul(f32x4.pmax(inside, f32x4.splat(0)), edge), one());
  return f32x4.mul(t, t);
}

@inline function squared(u: v128, v: v128): v128 {
  return f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v));
}

/** A number from 0 to 1 for a point of a lattice; the mixing of MurmurHash3 (A. Appleby, 2008). */
@inline function latticeNoise(x: v128, y: v128, seed: v128): v128 {
  let h = v128.xor(i32x4.mul(x, i32x4.splat(0x9e3779b1)), i32x4.mul(y, i32x4.splat(0x85ebca6b)));
  h = i32x4.add(h, seed);
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 16)), i32x4.splat(0x85ebca6b));
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 13)), i32x4.splat(0xc2b2ae35));
  h = v128.xor(h, i32x4.shr_u(h, 16));
  return f32x4.mul(f32x4.convert_i32x4_s(i32x4.shr_u(h, 8)), f32x4.splat(5.9604644775390625e-8));
}

@inline function mix(a: v128, b: v128, t: v128): v128 {
  return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), t));
}

@inline function ease(t: v128): v128 {
  return f32x4.mul(f32x4.mul(t, t), f32x4.sub(f32x4.splat(3), f32x4.mul(f32x4.splat(2), t)));
}

function smoothNoise(u: v128, v: v128, seed: v128): v128 {
  const fu = f32x4.floor(u);
  const fv = f32x4.floor(v);
  const x = i32x4.trunc_sat_f32x4_s(fu);
  const y = i32x4.trunc_sat_f32x4_s(fv);
  const tu = ease(f32x4.sub(u, fu));
  const tv = ease(f32x4.sub(v, fv));
  const next = i32x4.splat(1);
  const x1 = i32x4.add(x, next);
  const y1 = i32x4.add(y, next);
  const top = mix(latticeNoise(x, y, seed), latticeNoise(x1, y, seed), tu);
  const bottom = mix(latticeNoise(x, y1, seed), latticeNoise(x1, y1, seed), tu);
  return mix(top, bottom, tv);
}

/** Opacity of a pattern; `pick` is what tells a puff from the next. */
@inline export function pattern(kind: i32, args: usize, u: v128, v: v128, edge: v128, pick: i32): v128 {
  if (kind == DISC) return edged(f32x4.sub(one(), squared(u, v)), edge);
  if (kind == RING) {
    const half = argF(args, PARAM);
    const far = f32x4.sub(f32x4.sqrt(squared(u, v)), f32x4.splat(1 - half));
    const at = f32x4.mul(far, f32x4.splat(1 / half));
    return edged(f32x4.sub(one(), f32x4.mul(at, at)), edge);
  }
  if (kind == SQUARE) {
    const across = edged(f32x4.sub(one(), f32x4.mul(u, u)), edge);
    return f32x4.mul(across, edged(f32x4.sub(one(), f32x4.mul(v, v)), edge));
  }
  if (kind == SPARK) {
    const au = f32x4.abs(u);
    const av = f32x4.abs(v);
    const bend = f32x4.mul(f32x4.sqrt(f32x4.mul(au, av)), f32x4.splat(argF(args, PARAM)));
    return edged(f32x4.sub(one(), f32x4.add(f32x4.add(au, av), bend)), edge);
  }
  const seed = i32x4.splat(pick);
  const fine = argF(args, PARAM);
  const coarse = smoothNoise(f32x4.mul(u, f32x4.splat(fine)), f32x4.mul(v, f32x4.splat(fine)), seed);
  const detail = smoothNoise(
    f32x4.mul(u, f32x4.splat(2.3 * fine)),
    f32x4.mul(v, f32x4.splat(2.3 * fine)),
    i32x4.add(seed, i32x4.splat(7)),
  );
  const noise = f32x4.add(f32x4.mul(coarse, f32x4.splat(1.3)), f32x4.mul(detail, f32x4.splat(0.7)));
  return f32x4.mul(edged(f32x4.sub(one(), squared(u, v)), edge), f32x4.mul(noise, noise));
}

/** The opening of the lens: an even light within its shape, `au` and `av` straight on the screen. */
@inline export function aperture(args: usize, au: v128, av: v128, edge: v128): v128 {
  const blades = arg(args, BLADES);
  const x = f32x4.mul(au, f32x4.splat(argF(args, ASPECT_U)));
  const y = f32x4.mul(av, f32x4.splat(argF(args, ASPECT)));
  if (blades < 3) return edged(f32x4.sub(one(), squared(x, y)), edge);
  let far = f32x4.splat(0);
  for (let i = 0; i < blades; i++) {
    const nx = f32x4.splat(argF(args, FLATS + 2 * i));
    const ny = f32x4.splat(argF(args, FLATS + 2 * i + 1));
    far = f32x4.pmax(far, f32x4.add(f32x4.mul(x, nx), f32x4.mul(y, ny)));
  }
  return edged(f32x4.sub(one(), f32x4.mul(far, far)), edge);
}
