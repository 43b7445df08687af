// Copies as triangles: those that face the eye, lit at their corners.

import { arg, argF } from './args';
import { fillFace } from './faces';
import { Face, Meshes, Mode, Size, Tiles } from './generated/words';
import { levelCount, levelFirst, levelOf } from './levels';
import { CORNER, fillTriangle } from './triangles';
import { along, AXES, lightCorner, NEAR, squared, TRIANGLE } from './wholeCopy';

/** Copies smaller than this, in pixels, have flat faces of one light. */
const EVEN_PIXELS: f32 = 16;
/** Over faces of smaller ones depth is as good as straight over the screen. */
const SMALL_PIXELS: f32 = 96;
/** Bytes from a square's first corner to its fourth. */
const FOURTH: usize = TRIANGLE + 48;
/** Bytes from a triangle's corners to where rows are worked out, and to the places of a face's corners. */
const ROWS: usize = 112;
const PLACES: usize = 144;

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
export function drawCopy(
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
  // Where depth is measured it is true over small ones too.
  const small = size < SMALL_PIXELS && arg(args, Meshes.MEASURED) == 0;
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
    const face = faces + <usize>t * Size.FACE_BYTES;
    const before =
      load<f32>(face) * ea * la +
      load<f32>(face, 4) * eb * lb +
      load<f32>(face, 8) * ec * lc -
      load<f32>(face, 12) * off;
    const from = mesh + <usize>t * TRIANGLE;
    const kind = <i32>load<f32>(face, 16);
    // A flat parallelogram of two triangles goes as a whole: the second's last corner is its fourth.
    if (kind == Face.QUAD) t += 1;
    if (!(before > 0)) continue;
    const fourth = kind == Face.QUAD ? from + FOURTH : from;
    if (small && size < EVEN_PIXELS && kind != Face.CURVED) {
      drawFace(false, args, copy, from, fourth, la, lb, lc, corners, tx, ty, right, bottom);
    } else if (small) {
      drawFace(true, args, copy, from, fourth, la, lb, lc, corners, tx, ty, right, bottom);
    } else {
      drawLarge(args, copy, from, la, lb, lc, corners, tx, ty);
      if (kind == Face.QUAD) drawLarge(args, copy, from + TRIANGLE, la, lb, lc, corners, tx, ty);
    }
  }
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
  const places = corners + PLACES;
  v128.store(places, x);
  v128.store(places, y, 16);
  v128.store(places, z, 32);
  putPlace(corners, places, 0);
  lightCorner(args, copy, from, la, lb, lc, corners);
  if (shaded) {
    putPlace(corners + CORNER, places, 1);
    lightCorner(args, copy, from + 24, la, lb, lc, corners + CORNER);
    putPlace(corners + 2 * CORNER, places, 2);
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
function putPlace(to: usize, places: usize, corner: usize): void {
  const from = places + (corner << 2);
  store<f32>(to, load<f32>(from), 12);
  store<f32>(to, load<f32>(from, 16), 16);
  store<f32>(to, load<f32>(from, 32), 20);
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
