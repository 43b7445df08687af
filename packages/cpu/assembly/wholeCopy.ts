// What stands of a whole copy, one after the other: its place from the eye, three axes, light and opacity.

import { light } from './light';

/** Metres before the eye at which things end. */
export const NEAR: f32 = 1e-3;
/** Where a copy has its axes, and its light, behind its place. */
export const AXES: usize = 12;
export const LIGHT: usize = 48;
/** Bytes of a triangle of the mesh. */
export const TRIANGLE: usize = 72;

/** The square of a length, never 0. */
// @inline
export function square(x: f32, y: f32, z: f32): f32 {
  return max(x * x + y * y + z * z, <f32>1e-20);
}

/** How far a place goes along one of a copy's axes, times the axis's length. */
// @inline
export function along(copy: usize, axis: usize, x: f32, y: f32, z: f32): f32 {
  const at = copy + AXES + 12 * axis;
  return x * load<f32>(at) + y * load<f32>(at, 4) + z * load<f32>(at, 8);
}

/** The square of one of its axes' length, never 0. */
// @inline
export function squared(copy: usize, axis: usize): f32 {
  const at = copy + AXES + 12 * axis;
  return square(load<f32>(at), load<f32>(at, 4), load<f32>(at, 8));
}

/** Lights a corner of a copy, whose place from the eye stands where its light goes. */
// @inline
export function lightCorner(
  args: usize,
  copy: usize,
  corner: usize,
  la: f32,
  lb: f32,
  lc: f32,
  to: usize,
): void {
  const na = load<f32>(corner, 12) * la;
  const nb = load<f32>(corner, 16) * lb;
  const nc = load<f32>(corner, 20) * lc;
  const a = copy + AXES;
  light(
    args,
    copy + LIGHT,
    to,
    na * load<f32>(a) + nb * load<f32>(a, 12) + nc * load<f32>(a, 24),
    na * load<f32>(a, 4) + nb * load<f32>(a, 16) + nc * load<f32>(a, 28),
    na * load<f32>(a, 8) + nb * load<f32>(a, 20) + nc * load<f32>(a, 32),
    false,
  );
}
