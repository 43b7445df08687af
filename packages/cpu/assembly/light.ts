// Light of a surface.

import { arg, argF } from './args';
import { Meshes } from './generated/words';

/** Twice the area in pixels up to which a flat face is lit as a whole. */
export const EVEN: f32 = 256;

/** Whether the three corners of a triangle have one normal. */
// @inline
export function flat(corners: usize): bool {
  return (
    load<f32>(corners, 12) == load<f32>(corners, 36) &&
    load<f32>(corners, 16) == load<f32>(corners, 40) &&
    load<f32>(corners, 20) == load<f32>(corners, 44) &&
    load<f32>(corners, 12) == load<f32>(corners, 60) &&
    load<f32>(corners, 16) == load<f32>(corners, 64) &&
    load<f32>(corners, 20) == load<f32>(corners, 68)
  );
}

/**
 * Light of a corner: even light from all round, Lambert's cosine for each lamp, a highlight by the
 * half vector (J. F. Blinn, 1977) to the 16th power, and for rim lamps a glow where the surface
 * turns away. Seen from behind, the surface shows its other side. At `colour` stand the own light of
 * what is lit and its opacity; at `to` the place of the corner from the eye, which its light replaces.
 */
export function light(
  args: usize,
  colour: usize,
  to: usize,
  nx: f32,
  ny: f32,
  nz: f32,
  behind: bool,
): void {
  const x = load<f32>(to, 12);
  const y = load<f32>(to, 16);
  const z = load<f32>(to, 20);
  const straight = arg(args, Meshes.PERSPECTIVE) == 0;
  const far: f32 = 1 / sqrt<f32>(max(x * x + y * y + z * z, <f32>1e-20));
  const vx: f32 = straight ? 0 : -x * far;
  const vy: f32 = straight ? 0 : -y * far;
  const vz: f32 = straight ? -1 : -z * far;
  const size: f32 = (behind ? -1 : 1) / sqrt<f32>(max(nx * nx + ny * ny + nz * nz, <f32>1e-20));
  const ux = nx * size;
  const uy = ny * size;
  const uz = nz * size;
  const facing = max<f32>(0, ux * vx + uy * vy + uz * vz);
  const gloss = argF(args, Meshes.GLOSS);
  let r = argF(args, Meshes.AMBIENT);
  let g = argF(args, Meshes.AMBIENT + 1);
  let b = argF(args, Meshes.AMBIENT + 2);
  let sr: f32 = 0;
  let sg: f32 = 0;
  let sb: f32 = 0;
  const lamps = <usize>arg(args, Meshes.LIGHTS);
  for (let k = 0; k < arg(args, Meshes.LIGHT_COUNT); k++) {
    const lamp = lamps + ((<usize>k) << 5);
    const lx = load<f32>(lamp);
    const ly = load<f32>(lamp, 4);
    const lz = load<f32>(lamp, 8);
    let lit = max<f32>(0, ux * lx + uy * ly + uz * lz);
    if (load<f32>(lamp, 24) > 0) lit *= (1 - facing) * (1 - facing) * 4;
    const lr = load<f32>(lamp, 12);
    const lg = load<f32>(lamp, 16);
    const lb = load<f32>(lamp, 20);
    r += lr * lit;
    g += lg * lit;
    b += lb * lit;
    const hx = lx + vx;
    const hy = ly + vy;
    const hz = lz + vz;
    const h =
      max<f32>(0, ux * hx + uy * hy + uz * hz) /
      sqrt<f32>(max(hx * hx + hy * hy + hz * hz, <f32>1e-12));
    const h2 = h * h;
    const h4 = h2 * h2;
    const shine = gloss * h4 * h4 * h4 * h4;
    sr += lr * shine;
    sg += lg * shine;
    sb += lb * shine;
  }
  const alpha = load<f32>(colour, 12);
  store<f32>(to, load<f32>(colour) * r + sr * alpha, 12);
  store<f32>(to, load<f32>(colour, 4) * g + sg * alpha, 16);
  store<f32>(to, load<f32>(colour, 8) * b + sb * alpha, 20);
}
