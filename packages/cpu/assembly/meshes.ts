// Copies of a mesh as triangles: placed, lit at their corners, and brought to the screen.

import { arg, argF, own } from './args';
import { isHeavy, levelCount, levelFirst, levelOf } from './levels';
import { Meshes, Mode, Size, Tiles } from './generated/words';
import { EVEN, flat, light } from './light';
import { CORNER, TRIANGLE_DEPTH } from './triangles';
import { NEAR } from './wholeCopy';

/** The longest side of a copy's bounds in pixels; 0 where it is not seen. */
// @inline
function sizeAt(args: usize, i: i32): f32 {
  return 2 * max(own(args, Meshes.EX, i), own(args, Meshes.EY, i));
}

/** How many triangles the heavy copies of one chunk have, see copies.ts. */
export function countMeshes(chunk: i32, args: usize, thread: i32): void {
  const per = arg(args, Meshes.PER);
  const last = min((chunk + 1) * per, arg(args, Tiles.COUNT));
  let n = 0;
  for (let i = chunk * per; i < last; i++) {
    const size = sizeAt(args, i);
    if (isHeavy(args, size)) n += levelCount(args, levelOf(args, size));
  }
  store<i32>(<usize>arg(args, Tiles.FILLED) + ((<usize>chunk) << 2), n);
}

/** Puts the triangles of one chunk of particles into its room: of opaque ones those of heavy copies. */
export function fillMeshes(chunk: i32, args: usize, thread: i32): void {
  const opaque = arg(args, Tiles.MODE) == Mode.OPAQUE;
  const per = arg(args, Meshes.PER);
  const last = min((chunk + 1) * per, arg(args, Tiles.COUNT));
  const room = arg(args, Tiles.ROOM);
  const base = <usize>arg(args, Tiles.ITEMS) + <usize>chunk * <usize>room * Size.TRIANGLE_BYTES;
  let n = 0;
  for (let i = chunk * per; i < last; i++) {
    if (own(args, Meshes.CA, i) > 0 && (!opaque || isHeavy(args, sizeAt(args, i))))
      n = copy(args, i, base, n, thread);
  }
  store<i32>(<usize>arg(args, Tiles.FILLED) + ((<usize>chunk) << 2), n);
}

function copy(args: usize, i: i32, base: usize, first: i32, thread: i32): i32 {
  const perspective = arg(args, Meshes.PERSPECTIVE) != 0;
  const cull = arg(args, Meshes.CULL) != 0;
  const zoom = argF(args, Meshes.ZOOM);
  const halfW: f32 = <f32>arg(args, Tiles.WIDTH) * 0.5;
  const halfH: f32 = <f32>arg(args, Tiles.HEIGHT) * 0.5;
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
  const colour = <usize>arg(args, Tiles.SCRATCH) + ((<usize>thread) << 13);
  for (let c = 0; c < 4; c++) store<f32>(colour + ((<usize>c) << 2), own(args, Meshes.CR + c, i));
  const mesh = <usize>arg(args, Meshes.MESH);
  const level = arg(args, Tiles.MODE) == Mode.OPAQUE ? levelOf(args, sizeAt(args, i)) : 0;
  const begin = levelFirst(args, level);
  const end = begin + levelCount(args, level);
  let n = first;
  for (let t = begin; t < end; t++) {
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
          colour,
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
