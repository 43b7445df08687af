import type { Picture } from '../types';
import { pictureModule, room } from './pictureModule';

/** One number for each cell of a grid, rows from the top. */
export interface Grid {
  width: number;
  height: number;
  values: Float32Array;
}

/** How far what is seen has moved: in cells, to the right and down, where it has come to. */
export interface Flow {
  width: number;
  height: number;
  x: Float32Array;
  y: Float32Array;
}

/** A picture as grey at so many cells along its longer side, 0 to 1: means of the bytes there. */
export function greyOf({ width, height, pixels }: Picture, detail: number): Grid {
  const scale = Math.min(1, detail / Math.max(width, height));
  const [w, h] = [width, height].map((n) => Math.max(1, Math.round(n * scale))) as [number, number];
  const { grey, greyBytes } = pictureModule();
  const memory = room(greyBytes(width, height, w, h));
  new Uint8Array(memory).set(pixels);
  const values = new Float32Array(memory, grey(width, height, w, h), w * h).slice();
  return { width: w, height: h, values };
}

/**
 * Dense optical flow from one picture to another of the same size, from coarse to fine: at each size a window
 * about each cell is moved to where it fits best by least squares, warped, and looked at again (B. D. Lucas and
 * T. Kanade, "An iterative image registration technique", 1981; J.-Y. Bouguet, "Pyramidal implementation of the
 * affine Lucas Kanade feature tracker", 2000). Nothing but additions, multiplications and divisions of single
 * precision, four cells at once (assembly/flow.ts): the same bits on every machine. Equal pictures give 0.
 */
export function flowBetween(before: Grid, after: Grid): Flow {
  const { width, height } = after;
  const { strideOf, bytesOf, planeBytes, find } = pictureModule();
  const memory = room(bytesOf(width, height));
  const stride = strideOf(width);
  const plane = planeBytes(width, height);
  const rows = (at: number): Float32Array => new Float32Array(memory, at, plane / 4);
  [before, after].forEach(({ values }, k) => {
    const to = rows(k * plane);
    for (let j = 0; j < height; j++) {
      to.set(values.subarray(j * width, (j + 1) * width), j * stride);
    }
  });
  const found = find(width, height);
  const part = (at: number): Float32Array => {
    const [from, out] = [rows(at), new Float32Array(width * height)];
    for (let j = 0; j < height; j++) {
      out.set(from.subarray(j * stride, j * stride + width), j * width);
    }
    return out;
  };
  return { width, height, x: part(found), y: part(found + plane) };
}

/** Means over squares about each cell, twice: near ones count more. Outside is what the border has. */
export function windowed(
  values: Float32Array,
  width: number,
  height: number,
  radius: number,
): Float32Array {
  if (radius < 1) return values.slice();
  const [across, all] = [new Float32Array(values.length), new Float32Array(values.length)];
  for (let pass = 0; pass < 2; pass++) {
    const from = pass === 0 ? values : all;
    for (let j = 0; j < height; j++) meanOfRow(from, across, j * width, width, radius);
    meanOfColumns(across, all, width, height, radius);
  }
  return all;
}

function meanOfRow(
  from: Float32Array,
  to: Float32Array,
  start: number,
  count: number,
  radius: number,
): void {
  const last = count - 1;
  let sum = 0;
  for (let i = -radius; i <= radius; i++) sum += from[start + (i < 0 ? 0 : i > last ? last : i)]!;
  const share = 1 / (2 * radius + 1);
  for (let i = 0; i < count; i++) {
    to[start + i] = sum * share;
    const [into, out] = [i + radius + 1, i - radius];
    sum += from[start + (into > last ? last : into)]! - from[start + (out < 0 ? 0 : out)]!;
  }
}

/** The same down all columns at once, row by row, as they lie in memory. */
function meanOfColumns(
  from: Float32Array,
  to: Float32Array,
  width: number,
  height: number,
  radius: number,
): void {
  const sums = new Float64Array(width);
  const row = (j: number): number => width * Math.max(0, Math.min(height - 1, j));
  for (let j = -radius; j <= radius; j++) {
    for (let i = 0, at = row(j); i < width; i++, at++) sums[i]! += from[at]!;
  }
  const share = 1 / (2 * radius + 1);
  for (let j = 0; j < height; j++) {
    const [here, into, out] = [j * width, row(j + radius + 1), row(j - radius)];
    for (let i = 0; i < width; i++) {
      to[here + i] = sums[i]! * share;
      sums[i]! += from[into + i]! - from[out + i]!;
    }
  }
}
