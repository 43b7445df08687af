// Copies that are hardly more than a point.

import { arg, argF } from './args';
import { Meshes, Size, Tiles } from './generated/words';
import { levelCount, levelFirst } from './levels';
import { along, lightCorner, NEAR, square, squared, TRIANGLE } from './wholeCopy';

/** Whether two flat triangles of the mesh have one normal. */
// @inline
function sameNormal(a: usize, b: usize): bool {
  return (
    load<f32>(a, 12) == load<f32>(b, 12) &&
    load<f32>(a, 16) == load<f32>(b, 16) &&
    load<f32>(a, 20) == load<f32>(b, 20)
  );
}

/**
 * A copy as a rectangle of as many samples as the faces that are seen cover, with their mean light. Smaller
 * than a sample it is seen where it covers the sample's middle, as anything is.
 */
export function drawPoint(
  args: usize,
  copy: usize,
  bounds: usize,
  to: usize,
  tx: i32,
  ty: i32,
  right: i32,
  bottom: i32,
): void {
  const perspective = arg(args, Meshes.PERSPECTIVE) != 0;
  const k = argF(args, Tiles.SCALE);
  const px = load<f32>(copy);
  const py = load<f32>(copy, 4);
  const pz = load<f32>(copy, 8);
  if (!(pz > NEAR)) return;
  const aa = squared(copy, 0);
  const bb = squared(copy, 1);
  const cc = squared(copy, 2);
  // The way to the eye.
  const far: f32 = perspective ? 1 / sqrt<f32>(square(px, py, pz)) : 0;
  const vx = -px * far;
  const vy = -py * far;
  const vz = perspective ? -pz * far : -1;
  const qa = along(copy, 0, vx, vy, vz) / aa;
  const qb = along(copy, 1, vx, vy, vz) / bb;
  const qc = along(copy, 2, vx, vy, vz) / cc;
  const mesh = <usize>arg(args, Meshes.MESH);
  const faces = <usize>arg(args, Meshes.FACES);
  const level = arg(args, Meshes.LEVEL_COUNT) - 1;
  const begin = levelFirst(args, level);
  const end = begin + levelCount(args, level);
  let sum: f32 = 0;
  let r: f32 = 0;
  let g: f32 = 0;
  let b: f32 = 0;
  let lit: usize = 0;
  for (let t = begin; t < end; t++) {
    const face = faces + <usize>t * Size.FACE_BYTES;
    const weight = load<f32>(face) * qa + load<f32>(face, 4) * qb + load<f32>(face, 8) * qc;
    if (!(weight > 0)) continue;
    const from = mesh + <usize>t * TRIANGLE;
    if (!(lit != 0 && sameNormal(from, lit))) {
      store<f32>(to, px, 12);
      store<f32>(to, py, 16);
      store<f32>(to, pz, 20);
      lightCorner(args, copy, from, 1 / aa, 1 / bb, 1 / cc, to);
      lit = from;
    }
    sum += weight;
    r += weight * load<f32>(to, 12);
    g += weight * load<f32>(to, 16);
    b += weight * load<f32>(to, 20);
  }
  if (!(sum > 0)) return;
  const zoom = argF(args, Meshes.ZOOM) / (perspective ? pz : 1);
  const area: f32 = 0.5 * sum * sqrt<f32>(aa * bb * cc) * zoom * zoom;
  // As wide for its height as its bounds are.
  const ex = load<f32>(bounds, 8);
  const ey = load<f32>(bounds, 12);
  const covers: f32 = 0.5 * k * sqrt<f32>(min(area, 4 * ex * ey) / (ex * ey));
  const sx = load<f32>(bounds) * k;
  const sy = load<f32>(bounds, 4) * k;
  const rx = covers * ex;
  const ry = covers * ey;
  const x0 = max(tx, <i32>max<f32>(0, Mathf.ceil(sx - rx - 0.5)));
  const x1 = min(right, <i32>Mathf.ceil(sx + rx - 0.5) - 1);
  const y0 = max(ty, <i32>max<f32>(0, Mathf.ceil(sy - ry - 0.5)));
  const y1 = min(bottom, <i32>Mathf.ceil(sy + ry - 0.5) - 1);
  const part: f32 = 1 / sum;
  putRectangle(args, x0, y0, x1, y1, pz, r * part, g * part, b * part);
}

function putRectangle(
  args: usize,
  x0: i32,
  y0: i32,
  x1: i32,
  y1: i32,
  depth: f32,
  r: f32,
  g: f32,
  b: f32,
): void {
  const stride = arg(args, Tiles.STRIDE);
  const red = <usize>arg(args, Tiles.PLANE);
  const green = <usize>arg(args, Tiles.PLANE + 1);
  const blue = <usize>arg(args, Tiles.PLANE + 2);
  const nearest = <usize>arg(args, Tiles.NEAREST);
  for (let y = y0; y <= y1; y++) {
    for (let x = x0; x <= x1; x++) {
      const at = (<usize>(y * stride + x)) << 2;
      if (!(depth < load<f32>(nearest + at))) continue;
      store<f32>(nearest + at, depth);
      store<f32>(red + at, r);
      store<f32>(green + at, g);
      store<f32>(blue + at, b);
    }
  }
}
