// Opaque things, tile by tile: all of them go into planes of the tile that are finer than the frame, with a
// depth for each sample, so that their edges are smooth and whatever is nearest is seen, of whatever draw.

import { arg } from './args';
import { Size, Solids, Tiles } from './generated/words';
import { drawList, inTile } from './draw';

/**
 * Samples from one row of fine planes to the next, and bytes from one plane to the next: with room between,
 * so that neighbouring rows, and the planes of a sample, do not share the same lines of a cache.
 */
// @inline
function strideOf(k: i32): i32 {
  return Size.TILE_W * k + Size.ROW_GAP;
}

// @inline
function planeBytes(k: i32): usize {
  return ((<usize>(strideOf(k) * Size.TILE_H * k)) << 2) + Size.PLANE_GAP_BYTES;
}

/** Draws all opaque things of one tile. */
export function drawSolids(tile: i32, args: usize, thread: i32): void {
  const draws = <usize>arg(args, Solids.DRAWS);
  const count = arg(args, Solids.DRAW_COUNT);
  let any = 0;
  for (let d = 0; d < count; d++) any += inTile(<usize>load<i32>(draws + ((<usize>d) << 2)), tile);
  if (any == 0) return;
  const k = arg(args, Solids.SAMPLES);
  const spanW = Size.TILE_W * k;
  const spanH = Size.TILE_H * k;
  const own = <usize>arg(args, Solids.FINE) + <usize>thread * <usize>arg(args, Solids.FINE_BYTES);
  const fine = own + (Size.ARGS << 2);
  const bytes = planeBytes(k);
  const tx = (tile % arg(args, Solids.TILES_X)) * Size.TILE_W;
  const ty = (tile / arg(args, Solids.TILES_X)) * Size.TILE_H;
  for (let p = 0; p < 4; p++) spread(args, p, fine + <usize>p * bytes, tx, ty, k);
  // Each draw with words of its own for the fine planes, which begin where the tile does.
  const before = (<usize>(ty * k * strideOf(k) + tx * k)) << 2;
  for (let d = 0; d < count; d++) {
    const from = <usize>load<i32>(draws + ((<usize>d) << 2));
    memory.copy(own, from, Size.ARGS << 2);
    put(own, Tiles.STRIDE, strideOf(k));
    for (let p = 0; p < 3; p++) put(own, Tiles.PLANE + p, <i32>(fine + <usize>p * bytes - before));
    put(own, Tiles.NEAREST, <i32>(fine + 3 * bytes - before));
    put(own, Tiles.WIDTH, arg(args, Solids.WIDTH) * k);
    put(own, Tiles.HEIGHT, arg(args, Solids.HEIGHT) * k);
    put(own, Tiles.SPAN_W, spanW);
    put(own, Tiles.SPAN_H, spanH);
    store<f32>(own + ((<usize>Tiles.SCALE) << 2), <f32>k);
    drawList(own, tile, tx * k, ty * k, thread);
  }
  for (let p = 0; p < 3; p++) gather(args, p, fine + <usize>p * bytes, tx, ty, k);
  middles(args, fine + 3 * bytes, tx, ty, k);
}

// @inline
function put(args: usize, word: i32, value: i32): void {
  store<i32>(args + ((<usize>word) << 2), value);
}

/** Where a plane of the frame has a pixel: red, green, blue, then what is nearest. */
// @inline
function pixel(args: usize, p: i32, x: i32, y: i32): usize {
  const plane = p < 3 ? arg(args, Solids.PLANE + p) : arg(args, Solids.NEAREST);
  return <usize>plane + ((<usize>(y * arg(args, Solids.STRIDE) + x)) << 2);
}

/** Brings what is in the frame's pixels to all their samples. */
function spread(args: usize, p: i32, fine: usize, tx: i32, ty: i32, k: i32): void {
  const row = (<usize>strideOf(k)) << 2;
  const width = min(Size.TILE_W, arg(args, Solids.WIDTH) - tx);
  const height = min(Size.TILE_H, arg(args, Solids.HEIGHT) - ty);
  for (let y = 0; y < height; y++) {
    const first = fine + <usize>(y * k) * row;
    const from = pixel(args, p, tx, ty + y);
    for (let x = 0; x < width; x++) {
      const at = first + ((<usize>(x * k)) << 2);
      const value = v128.load32_splat(from + ((<usize>x) << 2));
      if (k == 4) v128.store(at, value);
      else if (k == 2) v128.store64_lane(at, value, 0);
      else v128.store32_lane(at, value, 0);
    }
    for (let j = 1; j < k; j++) memory.copy(first + <usize>j * row, first, row);
  }
}

/** The means of samples, back to the frame's pixels. */
function gather(args: usize, p: i32, fine: usize, tx: i32, ty: i32, k: i32): void {
  const row = (<usize>strideOf(k)) << 2;
  const width = min(Size.TILE_W, arg(args, Solids.WIDTH) - tx);
  const height = min(Size.TILE_H, arg(args, Solids.HEIGHT) - ty);
  const part: f32 = 1 / <f32>(k * k);
  for (let y = 0; y < height; y++) {
    const first = fine + <usize>(y * k) * row;
    const to = pixel(args, p, tx, ty + y);
    for (let x = 0; x < width; x++) {
      const at = first + ((<usize>(x * k)) << 2);
      let sum: f32 = 0;
      if (k == 4) {
        let four = f32x4.add(v128.load(at), v128.load(at + row));
        four = f32x4.add(four, f32x4.add(v128.load(at + 2 * row), v128.load(at + 3 * row)));
        four = f32x4.add(four, v128.shuffle<f32>(four, four, 2, 3, 0, 1));
        sum = f32x4.extract_lane(four, 0) + f32x4.extract_lane(four, 1);
      } else {
        for (let j = 0; j < k; j++) {
          for (let i = 0; i < k; i++) {
            sum += load<f32>(at + <usize>j * row + ((<usize>i) << 2));
          }
        }
      }
      store<f32>(to + ((<usize>x) << 2), sum * part);
    }
  }
}

/** The depth in the middle of each pixel, back to the frame. */
function middles(args: usize, fine: usize, tx: i32, ty: i32, k: i32): void {
  const row = (<usize>strideOf(k)) << 2;
  const width = min(Size.TILE_W, arg(args, Solids.WIDTH) - tx);
  const height = min(Size.TILE_H, arg(args, Solids.HEIGHT) - ty);
  const half = k >> 1;
  for (let y = 0; y < height; y++) {
    const first = fine + <usize>(y * k + half) * row;
    const to = pixel(args, 3, tx, ty + y);
    for (let x = 0; x < width; x++) {
      store<f32>(to + ((<usize>x) << 2), load<f32>(first + ((<usize>(x * k + half)) << 2)));
    }
  }
}
