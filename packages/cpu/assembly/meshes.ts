// Copies of a mesh as triangles: placed, lit at their corners, and brought to the screen.

import { arg, argF, own } from './args';
import { Meshes, Size } from './generated/words';
import { CORNER, TRIANGLE_DEPTH } from './triangles';

/** Metres before the eye at which things end. */
const NEAR: f32 = 1e-3;

/** Puts the triangles of one chunk of particles into its room. */
export function fillMeshes(chunk: i32, args: usize, thread: i32): void {
  const per = arg(args, Meshes.PER);
  const last = min((chunk + 1) * per, arg(args, Meshes.COUNT));
  const room = arg(args, Meshes.ROOM);
  const base = <usize>arg(args, Meshes.ITEMS) + <usize>chunk * <usize>room * Size.TRIANGLE_BYTES;
  let n = 0;
  for (let i = chunk * per; i < last; i++) {
    if (own(args, Meshes.CA, i) > 0) n = copy(args, i, base, n);
  }
  store<i32>(<usize>arg(args, Meshes.FILLED) + ((<usize>chunk) << 2), n);
}

function copy(args: usize, i: i32, base: usize, first: i32): i32 {
  const perspective = arg(args, Meshes.PERSPECTIVE) != 0;
  const cull = arg(args, Meshes.CULL) != 0;
  const zoom = argF(args, Meshes.ZOOM);
  const halfW: f32 = <f32>arg(args, Meshes.WIDTH) * 0.5;
  const halfH: f32 = <f32>arg(args, Meshes.HEIGHT) * 0.5;
  const px = own(args, Meshes.MX, i);
  const py = own(args, Meshes.MX + 1, i);
  const pz = own(args, Meshes.MX + 2, i);
  const ax = own(args, Meshes.XX, i);
  const ay = own(args, Meshes.XX + 1, i);
  const az = own(args, Meshes.XX + 2, i);
  const bx = own(args, Meshes.XX + 3, i);
  const by = own(args, Meshes.XX + 4, i);
  const bz = own(args, Meshes.XX + 5, i);
  const cx = own(args, Meshes.XX + 6, i);
  const cy = own(args, Meshes.XX + 7, i);
  const cz = own(args, Meshes.XX + 8, i);
  // A normal goes by the inverse of each axis's length.
  const la: f32 = 1 / max(ax * ax + ay * ay + az * az, <f32>1e-20);
  const lb: f32 = 1 / max(bx * bx + by * by + bz * bz, <f32>1e-20);
  const lc: f32 = 1 / max(cx * cx + cy * cy + cz * cz, <f32>1e-20);
  const alpha = own(args, Meshes.CA, i);
  const mesh = <usize>arg(args, Meshes.MESH);
  const triangles = arg(args, Meshes.TRIANGLES);
  let n = first;
  for (let t = 0; t < triangles; t++) {
    const item = base + <usize>n * Size.TRIANGLE_BYTES;
    const corners = mesh + <usize>t * 72;
    let near = false;
    for (let k: usize = 0; k < 3; k++) {
      const from = corners + k * 24;
      const mx = load<f32>(from);
      const my = load<f32>(from, 4);
      const mz = load<f32>(from, 8);
      const x = px + mx * ax + my * bx + mz * cx;
      const y = py + mx * ay + my * by + mz * cy;
      const z = pz + mx * az + my * bz + mz * cz;
      near = near || !(z > NEAR);
      const scale = perspective ? zoom / z : zoom;
      const to = item + k * CORNER;
      store<f32>(to, halfW + x * scale);
      store<f32>(to, halfH - y * scale, 4);
      store<f32>(to, perspective ? 1 / z : z, 8);
      // Kept for the lighting until the corner's light takes their place.
      store<f32>(to, x, 12);
      store<f32>(to, y, 16);
      store<f32>(to, z, 20);
    }
    if (near) continue;
    const x0 = load<f32>(item);
    const y0 = load<f32>(item, 4);
    const area: f32 =
      (load<f32>(item, 2 * CORNER) - x0) * (load<f32>(item, CORNER + 4) - y0) -
      (load<f32>(item, 2 * CORNER + 4) - y0) * (load<f32>(item, CORNER) - x0);
    if (cull && !(area > 0)) continue;
    let depth: f32 = 0;
    // On small flat faces the light is the same all over.
    const even = abs<f32>(area) < EVEN && flat(corners);
    for (let k: usize = 0; k < 3; k++) {
      const from = corners + k * 24 + 12;
      const na = load<f32>(from) * la;
      const nb = load<f32>(from, 4) * lb;
      const nc = load<f32>(from, 8) * lc;
      const to = item + k * CORNER;
      depth += load<f32>(to, 20);
      if (even && k > 0) {
        store<f32>(to, load<f32>(item, 12), 12);
        store<f32>(to, load<f32>(item, 16), 16);
        store<f32>(to, load<f32>(item, 20), 20);
      } else
        light(
          args,
          i,
          to,
          na * ax + nb * bx + nc * cx,
          na * ay + nb * by + nc * cy,
          na * az + nb * bz + nc * cz,
          area < 0,
        );
      store<f32>(to, alpha, 24);
    }
    store<f32>(item + TRIANGLE_DEPTH, depth / 3);
    n += 1;
  }
  return n;
}

/** Twice the area in pixels up to which a flat face is lit as a whole. */
const EVEN: f32 = 256;

/** Whether the three corners of a triangle have one normal. */
// @inline
function flat(corners: usize): bool {
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
 * turns away. Seen from behind, the surface shows its other side.
 */
function light(args: usize, i: i32, to: usize, nx: f32, ny: f32, nz: f32, behind: bool): void {
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
  const alpha = own(args, Meshes.CA, i);
  store<f32>(to, own(args, Meshes.CR, i) * r + sr * alpha, 12);
  store<f32>(to, own(args, Meshes.CR + 1, i) * g + sg * alpha, 16);
  store<f32>(to, own(args, Meshes.CR + 2, i) * b + sb * alpha, 20);
}
