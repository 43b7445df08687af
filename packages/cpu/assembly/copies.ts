// Opaque copies of a mesh within one tile: near to far, so that what is hidden costs next to nothing, each
// in a form as fine as it is large.

import { arg, argF } from './args';
import { Meshes, Mode, Size, Tiles } from './generated/words';
import { fillEven } from './even';
import { light } from './light';
import { nearToFar } from './order';
import { CORNER, fillTriangle } from './triangles';

/** Metres before the eye at which things end. */
const NEAR: f32 = 1e-3;
/** Copies that are no larger, in pixels, are points with the light of the faces that are seen. */
const POINT: f32 = 2;
/** How far, in pixels, a coarser form may lie off the finest. */
const OFF: f32 = 0.3;
/** Larger copies of more triangles are brought to the screen once, and not once for each tile. */
const HEAVY_PIXELS: f32 = 64;
const HEAVY_TRIANGLES: i32 = 64;
/** Copies smaller than this, in pixels, have flat faces of one light. */
const EVEN_PIXELS: f32 = 16;
/** What a face is: as the normals of its corners have it, flat, or the first half of a flat square. */
const CURVED: i32 = 0;
const QUAD: i32 = 2;
/** Bytes from a square's first corner to its fourth. */
const FOURTH: usize = 72 + 48;
/** Bytes of a face. */
const FACE: usize = 20;
/** Bytes behind a triangle's corners at which their places from the eye stand. */
const PLACES: usize = 112;
/** Samples along a block: what is behind all of a block's samples is not looked at again. */
const BLOCK: i32 = 16;
/** Of so many copies (less one, a power of two) one that is hidden tries to close the blocks it is in. */
const CLOSING: i32 = 7;

/** Where a list has a copy's number, behind its bounds and how near it comes. */
const FRONT: usize = 16;
const NUMBER: usize = 20;
/** Where a whole copy has its axes, and its light, behind its place. */
const AXES: usize = 12;
const LIGHT: usize = 48;

/** First triangle of a form of the mesh. */
// @inline
export function levelFirst(args: usize, level: i32): i32 {
  return arg(args, Meshes.LEVELS + 3 * level);
}

/** How many it has. */
// @inline
export function levelCount(args: usize, level: i32): i32 {
  return arg(args, Meshes.LEVELS + 3 * level + 1);
}

/** The coarsest form that cannot be told from the finest at the size that the copy has. */
export function levelOf(args: usize, size: f32): i32 {
  let level = arg(args, Meshes.LEVEL_COUNT) - 1;
  while (level > 0 && argF(args, Meshes.LEVELS + 3 * level + 2) * size > OFF) level -= 1;
  return level;
}

/** Whether a copy is brought to the screen by fillMeshes. */
export function isHeavy(args: usize, size: f32): bool {
  return size > HEAVY_PIXELS && levelCount(args, levelOf(args, size)) > HEAVY_TRIANGLES;
}

/** Draws the copies of one tile: `n` numbers of its list from `begin` on. */
export function drawCopies(args: usize, begin: i32, n: i32, x: i32, y: i32, thread: i32): void {
  const list = <usize>arg(args, Tiles.LIST) + <usize>begin * Size.COPY_BYTES;
  const whole = <usize>arg(args, Meshes.WHOLE);
  const order = <usize>arg(args, Tiles.ORDER) + ((<usize>begin) << 2);
  for (let j = 0; j < n; j++) store<i32>(order + ((<usize>j) << 2), j);
  nearToFar(args, order, begin, n, list + FRONT, Size.COPY_BYTES, thread);
  // Behind the sort its bins are free: a triangle, and which blocks are closed.
  const corners = <usize>arg(args, Tiles.SCRATCH) + ((<usize>thread) << 13);
  const closed = corners + 192;
  const across = arg(args, Tiles.SPAN_W) / BLOCK;
  memory.fill(closed, 0, <usize>(across * max(1, arg(args, Tiles.SPAN_H) / BLOCK)));
  const k = argF(args, Tiles.SCALE);
  const right = min(x + arg(args, Tiles.SPAN_W), arg(args, Tiles.WIDTH)) - 1;
  const bottom = min(y + arg(args, Tiles.SPAN_H), arg(args, Tiles.HEIGHT)) - 1;
  for (let j = 0; j < n; j++) {
    const entry = list + <usize>load<i32>(order + ((<usize>j) << 2)) * Size.COPY_BYTES;
    const sx = load<f32>(entry);
    const sy = load<f32>(entry, 4);
    const ex = load<f32>(entry, 8);
    const ey = load<f32>(entry, 12);
    const x0 = max(x, <i32>max<f32>(0, (sx - ex) * k));
    const x1 = min(right, <i32>((sx + ex) * k));
    const y0 = max(y, <i32>max<f32>(0, (sy - ey) * k));
    const y1 = min(bottom, <i32>((sy + ey) * k));
    if (x1 < x0 || y1 < y0) continue;
    if (isHidden(args, closed, load<f32>(entry, FRONT), x0, y0, x1, y1, x, y, (j & CLOSING) == 0))
      continue;
    const size: f32 = max(ex, ey) * 2;
    const copy = whole + <usize>load<i32>(entry, NUMBER) * Size.WHOLE_BYTES;
    if (size <= POINT) drawPoint(args, copy, entry, corners, x, y, right, bottom);
    else if (!isHeavy(args, size)) drawCopy(args, copy, size, corners, x, y, right, bottom);
  }
}

/** Whether all samples from (x0, y0) to (x1, y1) have something nearer than `front`. */
function isHidden(
  args: usize,
  closed: usize,
  front: f32,
  x0: i32,
  y0: i32,
  x1: i32,
  y1: i32,
  x: i32,
  y: i32,
  closing: bool,
): bool {
  const across = arg(args, Tiles.SPAN_W) / BLOCK;
  const bx0 = (x0 - x) / BLOCK;
  const bx1 = (x1 - x) / BLOCK;
  const by0 = (y0 - y) / BLOCK;
  const by1 = (y1 - y) / BLOCK;
  for (let by = by0; by <= by1; by++) {
    for (let bx = bx0; bx <= bx1; bx++) {
      if (load<u8>(closed + by * across + bx)) continue;
      const left = x + bx * BLOCK;
      const top = y + by * BLOCK;
      const behind = isBehind(
        args,
        front,
        max(x0, left),
        max(y0, top),
        min(x1, left + BLOCK - 1),
        min(y1, top + BLOCK - 1),
      );
      if (!behind) return false;
    }
  }
  if (!closing) return true;
  // Nearer ones have gone before: what is behind all of a block now stays behind it.
  for (let by = by0; by <= by1; by++) {
    for (let bx = bx0; bx <= bx1; bx++) {
      if (load<u8>(closed + by * across + bx)) continue;
      const left = x + bx * BLOCK;
      const top = y + by * BLOCK;
      if (isBehind(args, front, left, top, left + BLOCK - 1, top + BLOCK - 1)) {
        store<u8>(closed + by * across + bx, 1);
      }
    }
  }
  return true;
}

function isBehind(args: usize, front: f32, x0: i32, y0: i32, x1: i32, y1: i32): bool {
  const nearest = <usize>arg(args, Tiles.NEAREST);
  const stride = arg(args, Tiles.STRIDE);
  const depth = f32x4.splat(front);
  for (let row = y0; row <= y1; row++) {
    const line = nearest + ((<usize>(row * stride)) << 2);
    for (let column = x0 & ~3; column <= x1; column += 4) {
      const there = v128.load(line + ((<usize>column) << 2));
      if (v128.any_true(f32x4.gt(there, depth))) return false;
    }
  }
  return true;
}

/** The square of an axis's length, never 0. */
// @inline
function square(x: f32, y: f32, z: f32): f32 {
  return max(x * x + y * y + z * z, <f32>1e-20);
}

/** One coordinate of the corners of a face, whose fourth stands apart. */
// @inline
function cornerLanes(from: usize, fourth: usize, at: usize): v128 {
  let lanes = v128.load32_zero(from + at);
  lanes = v128.load32_lane(from + at, lanes, 1, 24);
  lanes = v128.load32_lane(from + at, lanes, 2, 48);
  return v128.load32_lane(fourth + at, lanes, 3);
}

/** One coordinate of four corners from the eye. */
// @inline
function placed(p: f32, a: f32, b: f32, c: f32, mx: v128, my: v128, mz: v128): v128 {
  const first = f32x4.add(f32x4.splat(p), f32x4.mul(mx, f32x4.splat(a)));
  const second = f32x4.add(first, f32x4.mul(my, f32x4.splat(b)));
  return f32x4.add(second, f32x4.mul(mz, f32x4.splat(c)));
}

/** A copy as the triangles that face the eye. */
function drawCopy(
  args: usize,
  copy: usize,
  size: f32,
  corners: usize,
  tx: i32,
  ty: i32,
  right: i32,
  bottom: i32,
): void {
  const perspective = arg(args, Meshes.PERSPECTIVE) != 0;
  const zoom = argF(args, Meshes.ZOOM);
  const k = argF(args, Tiles.SCALE);
  const halfW: f32 = (<f32>arg(args, Tiles.WIDTH) * 0.5) / k;
  const halfH: f32 = (<f32>arg(args, Tiles.HEIGHT) * 0.5) / k;
  const px = load<f32>(copy);
  const py = load<f32>(copy, 4);
  const pz = load<f32>(copy, 8);
  const ax = load<f32>(copy, AXES);
  const ay = load<f32>(copy, AXES + 4);
  const az = load<f32>(copy, AXES + 8);
  const bx = load<f32>(copy, AXES + 12);
  const by = load<f32>(copy, AXES + 16);
  const bz = load<f32>(copy, AXES + 20);
  const cx = load<f32>(copy, AXES + 24);
  const cy = load<f32>(copy, AXES + 28);
  const cz = load<f32>(copy, AXES + 32);
  const la: f32 = 1 / square(ax, ay, az);
  const lb: f32 = 1 / square(bx, by, bz);
  const lc: f32 = 1 / square(cx, cy, cz);
  // The eye, or the way to it, as the mesh has it: a face is seen where the eye is before its plane.
  const ea = (perspective ? -(px * ax + py * ay + pz * az) : -az) * la;
  const eb = (perspective ? -(px * bx + py * by + pz * bz) : -bz) * lb;
  const ec = (perspective ? -(px * cx + py * cy + pz * cz) : -cz) * lc;
  const off: f32 = perspective ? 1 : 0;
  const mesh = <usize>arg(args, Meshes.MESH);
  const faces = <usize>arg(args, Meshes.FACES);
  const level = levelOf(args, size);
  const begin = levelFirst(args, level);
  const end = begin + levelCount(args, level);
  const small = size < EVEN_PIXELS;
  for (let t = begin; t < end; t++) {
    const face = faces + <usize>t * FACE;
    const before =
      load<f32>(face) * ea +
      load<f32>(face, 4) * eb +
      load<f32>(face, 8) * ec -
      load<f32>(face, 12) * off;
    if (!(before > 0)) continue;
    const from = mesh + <usize>t * 72;
    const kind = <i32>load<f32>(face, 16);
    // A flat square of two triangles goes as a whole: the second's last corner is its fourth.
    const many: usize = kind == QUAD ? 4 : 3;
    if (kind == QUAD) t += 1;
    // On small flat faces the light is the same all over.
    if (small && kind != CURVED) {
      const fourth = kind == QUAD ? from + FOURTH : from;
      const mx = cornerLanes(from, fourth, 0);
      const my = cornerLanes(from, fourth, 4);
      const mz = cornerLanes(from, fourth, 8);
      const x = placed(px, ax, bx, cx, mx, my, mz);
      const y = placed(py, ay, by, cy, mx, my, mz);
      const z = placed(pz, az, bz, cz, mx, my, mz);
      if (!v128.all_true<i32>(f32x4.gt(z, f32x4.splat(NEAR)))) continue;
      const far = f32x4.splat(zoom * k);
      const scale = perspective ? f32x4.div(far, z) : far;
      store<f32>(corners, f32x4.extract_lane(x, 0), 12);
      store<f32>(corners, f32x4.extract_lane(y, 0), 16);
      store<f32>(corners, f32x4.extract_lane(z, 0), 20);
      const na = load<f32>(from, 12) * la;
      const nb = load<f32>(from, 16) * lb;
      const nc = load<f32>(from, 20) * lc;
      light(
        args,
        copy + LIGHT,
        corners,
        na * ax + nb * bx + nc * cx,
        na * ay + nb * by + nc * cy,
        na * az + nb * bz + nc * cz,
        false,
      );
      fillEven(
        args,
        f32x4.add(f32x4.splat(halfW * k), f32x4.mul(x, scale)),
        f32x4.sub(f32x4.splat(halfH * k), f32x4.mul(y, scale)),
        z,
        corners,
        tx,
        ty,
        right,
        bottom,
      );
      continue;
    }
    let near = false;
    for (let c: usize = 0; c < many; c++) {
      const corner = from + (c == 3 ? FOURTH : c * 24);
      const mx = load<f32>(corner);
      const my = load<f32>(corner, 4);
      const mz = load<f32>(corner, 8);
      const x = px + mx * ax + my * bx + mz * cx;
      const y = py + mx * ay + my * by + mz * cy;
      const z = pz + mx * az + my * bz + mz * cz;
      near = near || !(z > NEAR);
      const scale = perspective ? zoom / z : zoom;
      const to = corners + c * CORNER;
      store<f32>(to, halfW + x * scale);
      store<f32>(to, halfH - y * scale, 4);
      store<f32>(to, perspective ? 1 / z : z, 8);
      const at = corners + PLACES + c * 12;
      store<f32>(at, x);
      store<f32>(at, y, 4);
      store<f32>(at, z, 8);
    }
    if (near) continue;
    for (let c: usize = 0; c < many; c++) {
      const to = corners + c * CORNER;
      const corner = from + (c == 3 ? FOURTH : c * 24);
      const na = load<f32>(corner, 12) * la;
      const nb = load<f32>(corner, 16) * lb;
      const nc = load<f32>(corner, 20) * lc;
      memory.copy(to + 12, corners + PLACES + c * 12, 12);
      light(
        args,
        copy + LIGHT,
        to,
        na * ax + nb * bx + nc * cx,
        na * ay + nb * by + nc * cy,
        na * az + nb * bz + nc * cz,
        false,
      );
    }
    const c = corners + 2 * CORNER;
    fillTriangle(Mode.OPAQUE, args, corners, corners + CORNER, c, tx, ty);
    if (kind == QUAD) fillTriangle(Mode.OPAQUE, args, corners, c, c + CORNER, tx, ty);
  }
}

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
function drawPoint(
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
  const ax = load<f32>(copy, AXES);
  const ay = load<f32>(copy, AXES + 4);
  const az = load<f32>(copy, AXES + 8);
  const bx = load<f32>(copy, AXES + 12);
  const by = load<f32>(copy, AXES + 16);
  const bz = load<f32>(copy, AXES + 20);
  const cx = load<f32>(copy, AXES + 24);
  const cy = load<f32>(copy, AXES + 28);
  const cz = load<f32>(copy, AXES + 32);
  const aa = square(ax, ay, az);
  const bb = square(bx, by, bz);
  const cc = square(cx, cy, cz);
  // The way to the eye.
  const far: f32 = perspective ? 1 / sqrt<f32>(square(px, py, pz)) : 0;
  const vx = -px * far;
  const vy = -py * far;
  const vz = perspective ? -pz * far : -1;
  const qa = (ax * vx + ay * vy + az * vz) / aa;
  const qb = (bx * vx + by * vy + bz * vz) / bb;
  const qc = (cx * vx + cy * vy + cz * vz) / cc;
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
    const face = faces + <usize>t * FACE;
    const weight = load<f32>(face) * qa + load<f32>(face, 4) * qb + load<f32>(face, 8) * qc;
    if (!(weight > 0)) continue;
    const from = mesh + <usize>t * 72;
    if (!(lit != 0 && sameNormal(from, lit))) {
      const na = load<f32>(from, 12) / aa;
      const nb = load<f32>(from, 16) / bb;
      const nc = load<f32>(from, 20) / cc;
      store<f32>(to, px, 12);
      store<f32>(to, py, 16);
      store<f32>(to, pz, 20);
      light(
        args,
        copy + LIGHT,
        to,
        na * ax + nb * bx + nc * cx,
        na * ay + nb * by + nc * cy,
        na * az + nb * bz + nc * cz,
        false,
      );
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
