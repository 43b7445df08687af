// Opaque copies of a mesh within one tile: near to far, so that what is hidden costs next to nothing, each
// in a form as fine as it is large.

import { arg, argF } from './args';
import { Meshes, Mode, Size, Tiles } from './generated/words';
import { fillFace } from './faces';
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
/** Over faces of smaller ones depth is as good as straight over the screen. */
const SMALL_PIXELS: f32 = 96;
/** What a face is: as the normals of its corners have it, flat, or the first half of a flat square. */
const CURVED: i32 = 0;
const QUAD: i32 = 2;
/** Bytes from a square's first corner to its fourth. */
const FOURTH: usize = 72 + 48;
/** Bytes of a face. */
const FACE: usize = 20;
/** Bytes behind a triangle's corners at which rows are worked out. */
const ROWS: usize = 112;
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

/** One coordinate (0, 4 or 8 bytes on) of four corners from the eye. */
// @inline
function placed(copy: usize, at: usize, mx: v128, my: v128, mz: v128): v128 {
  const a = v128.load32_splat(copy + AXES + at);
  const b = v128.load32_splat(copy + AXES + 12 + at);
  const c = v128.load32_splat(copy + AXES + 24 + at);
  const first = f32x4.add(v128.load32_splat(copy + at), f32x4.mul(mx, a));
  return f32x4.add(f32x4.add(first, f32x4.mul(my, b)), f32x4.mul(mz, c));
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
  const px = load<f32>(copy);
  const py = load<f32>(copy, 4);
  const pz = load<f32>(copy, 8);
  // The eye, or the way to it, as the mesh has it: a face is seen where the eye is before its plane.
  const ea = perspective ? -along(copy, 0, px, py, pz) : -load<f32>(copy, AXES + 8);
  const eb = perspective ? -along(copy, 1, px, py, pz) : -load<f32>(copy, AXES + 20);
  const ec = perspective ? -along(copy, 2, px, py, pz) : -load<f32>(copy, AXES + 32);
  // A normal goes by the inverse of each axis's length, and so does a place.
  const la: f32 = 1 / squared(copy, 0);
  const lb: f32 = 1 / squared(copy, 1);
  const lc: f32 = 1 / squared(copy, 2);
  const off: f32 = perspective ? 1 : 0;
  const mesh = <usize>arg(args, Meshes.MESH);
  const faces = <usize>arg(args, Meshes.FACES);
  const level = levelOf(args, size);
  const begin = levelFirst(args, level);
  const end = begin + levelCount(args, level);
  for (let t = begin; t < end; t++) {
    const face = faces + <usize>t * FACE;
    const before =
      load<f32>(face) * ea * la +
      load<f32>(face, 4) * eb * lb +
      load<f32>(face, 8) * ec * lc -
      load<f32>(face, 12) * off;
    const from = mesh + <usize>t * 72;
    const kind = <i32>load<f32>(face, 16);
    // A flat parallelogram of two triangles goes as a whole: the second's last corner is its fourth.
    if (kind == QUAD) t += 1;
    if (!(before > 0)) continue;
    const fourth = kind == QUAD ? from + FOURTH : from;
    if (size < EVEN_PIXELS && kind != CURVED) {
      drawFace(false, args, copy, from, fourth, la, lb, lc, corners, tx, ty, right, bottom);
    } else if (size < SMALL_PIXELS) {
      drawFace(true, args, copy, from, fourth, la, lb, lc, corners, tx, ty, right, bottom);
    } else {
      drawLarge(args, copy, from, la, lb, lc, corners, tx, ty);
      if (kind == QUAD) drawLarge(args, copy, from + 72, la, lb, lc, corners, tx, ty);
    }
  }
}

/** How far a place goes along one of a copy's axes, times the axis's length. */
// @inline
function along(copy: usize, axis: usize, x: f32, y: f32, z: f32): f32 {
  const at = copy + AXES + 12 * axis;
  return x * load<f32>(at) + y * load<f32>(at, 4) + z * load<f32>(at, 8);
}

/** The square of one of its axes' length, never 0. */
// @inline
function squared(copy: usize, axis: usize): f32 {
  const at = copy + AXES + 12 * axis;
  return square(load<f32>(at), load<f32>(at, 4), load<f32>(at, 8));
}

/** Lights a corner of a copy, whose place from the eye stands where its light goes. */
// @inline
function lightCorner(
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

/** A face of a small copy: a triangle, or a flat parallelogram whose fourth corner stands apart. */
// @inline
function drawFace(
  shaded: bool,
  args: usize,
  copy: usize,
  from: usize,
  fourth: usize,
  la: f32,
  lb: f32,
  lc: f32,
  corners: usize,
  tx: i32,
  ty: i32,
  right: i32,
  bottom: i32,
): void {
  const mx = cornerLanes(from, fourth, 0);
  const my = cornerLanes(from, fourth, 4);
  const mz = cornerLanes(from, fourth, 8);
  const x = placed(copy, 0, mx, my, mz);
  const y = placed(copy, 4, mx, my, mz);
  const z = placed(copy, 8, mx, my, mz);
  if (!v128.all_true<i32>(f32x4.gt(z, f32x4.splat(NEAR)))) return;
  const k = argF(args, Tiles.SCALE);
  const zoom = f32x4.splat(argF(args, Meshes.ZOOM) * k);
  const scale = arg(args, Meshes.PERSPECTIVE) != 0 ? f32x4.div(zoom, z) : zoom;
  putPlace(corners, x, y, z, 0);
  lightCorner(args, copy, from, la, lb, lc, corners);
  if (shaded) {
    putPlace(corners + CORNER, x, y, z, 1);
    lightCorner(args, copy, from + 24, la, lb, lc, corners + CORNER);
    putPlace(corners + 2 * CORNER, x, y, z, 2);
    lightCorner(args, copy, from + 48, la, lb, lc, corners + 2 * CORNER);
  }
  const halfW = f32x4.splat(<f32>arg(args, Tiles.WIDTH) * 0.5);
  const halfH = f32x4.splat(<f32>arg(args, Tiles.HEIGHT) * 0.5);
  fillFace(
    shaded,
    args,
    f32x4.add(halfW, f32x4.mul(x, scale)),
    f32x4.sub(halfH, f32x4.mul(y, scale)),
    z,
    corners,
    tx,
    ty,
    right,
    bottom,
    corners + ROWS,
  );
}

/** The place of one of four corners, where its light goes. */
// @inline
function putPlace(to: usize, x: v128, y: v128, z: v128, corner: i32): void {
  store<f32>(to, corner == 0 ? lane0(x) : corner == 1 ? lane1(x) : lane2(x), 12);
  store<f32>(to, corner == 0 ? lane0(y) : corner == 1 ? lane1(y) : lane2(y), 16);
  store<f32>(to, corner == 0 ? lane0(z) : corner == 1 ? lane1(z) : lane2(z), 20);
}

// @inline
function lane0(v: v128): f32 {
  return f32x4.extract_lane(v, 0);
}

// @inline
function lane1(v: v128): f32 {
  return f32x4.extract_lane(v, 1);
}

// @inline
function lane2(v: v128): f32 {
  return f32x4.extract_lane(v, 2);
}

/** A triangle of a large copy, its depth true all over. */
function drawLarge(
  args: usize,
  copy: usize,
  from: usize,
  la: f32,
  lb: f32,
  lc: f32,
  corners: usize,
  tx: i32,
  ty: i32,
): void {
  const perspective = arg(args, Meshes.PERSPECTIVE) != 0;
  const k = argF(args, Tiles.SCALE);
  const zoom = argF(args, Meshes.ZOOM);
  const a = copy + AXES;
  for (let c: usize = 0; c < 3; c++) {
    const mx = load<f32>(from + c * 24);
    const my = load<f32>(from + c * 24, 4);
    const mz = load<f32>(from + c * 24, 8);
    const x = load<f32>(copy) + mx * load<f32>(a) + my * load<f32>(a, 12) + mz * load<f32>(a, 24);
    const y =
      load<f32>(copy, 4) + mx * load<f32>(a, 4) + my * load<f32>(a, 16) + mz * load<f32>(a, 28);
    const z =
      load<f32>(copy, 8) + mx * load<f32>(a, 8) + my * load<f32>(a, 20) + mz * load<f32>(a, 32);
    if (!(z > NEAR)) return;
    const scale = perspective ? zoom / z : zoom;
    const to = corners + c * CORNER;
    store<f32>(to, (<f32>arg(args, Tiles.WIDTH) * 0.5) / k + x * scale);
    store<f32>(to, (<f32>arg(args, Tiles.HEIGHT) * 0.5) / k - y * scale, 4);
    store<f32>(to, perspective ? 1 / z : z, 8);
    store<f32>(to, x, 12);
    store<f32>(to, y, 16);
    store<f32>(to, z, 20);
    lightCorner(args, copy, from + c * 24, la, lb, lc, to);
  }
  const last = corners + 2 * CORNER;
  fillTriangle(Mode.OPAQUE, args, corners, corners + CORNER, last, tx, ty);
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
