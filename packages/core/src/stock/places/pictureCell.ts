import { memo } from '../memo';
import type { Picture } from '../types';
import { lightOf } from './pictureParts';

/** Pictures of particles are kept at no more pixels than this along their longer side. */
const FINEST = 256;

/** Pixels along a cell for pictures of so many pixels. */
export function cellSize({ width, height }: { width: number; height: number }) {
  const every = Math.max(1, Math.ceil(Math.max(width, height) / FINEST));
  const kept = (n: number): number => Math.max(1, Math.floor(n / every));
  return { width: kept(width), height: kept(height), every };
}

/** Linear light times opacity, and opacity; of one cell of a sheet, halved until it is small enough. */
export function cellOf(picture: Picture, columns: number, rows: number, n: number): Cell {
  return memo(picture, `cell.${[columns, rows, n].join('.')}`, () => {
    const { width: full, light } = lightOf(picture);
    const height = light.length / 4 / full;
    const [w, h] = [Math.floor(full / columns), Math.floor(height / rows)];
    const { width, height: tall, every: k } = cellSize({ width: w, height: h });
    const values = new Float32Array(4 * width * tall);
    const [left, top] = [(n % columns) * w, Math.floor(n / columns) * h];
    for (let y = 0; y < tall * k && y < h; y++) {
      for (let x = 0; x < width * k && x < w; x++) {
        const from = 4 * ((top + y) * full + left + x);
        const to = 4 * (Math.floor(y / k) * width + Math.floor(x / k));
        const alpha = light[from + 3]! / (k * k);
        for (let c = 0; c < 3; c++) values[to + c]! += light[from + c]! * alpha;
        values[to + 3]! += alpha;
      }
    }
    return { width, height: tall, values };
  });
}

export interface Cell {
  width: number;
  height: number;
  values: Float32Array;
}
