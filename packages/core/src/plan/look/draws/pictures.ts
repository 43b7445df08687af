import { lightOf } from '../../../stock/places/pictureParts';
import { memo, serialOf } from '../../../stock/memo';
import type { Picture } from '../../../stock/types';
import type { DrawContext } from './context';
import type { Pictures } from './draw';

/** Pictures of particles are kept at no more pixels than this along their longer side. */
const FINEST = 256;

/** Linear light times opacity, and opacity; of one cell of a sheet, halved until it is small enough. */
function cellOf(picture: Picture, columns: number, rows: number, n: number): Cell {
  return memo(picture, `cell.${[columns, rows, n].join('.')}`, () => {
    const { width: full, light } = lightOf(picture);
    const height = light.length / 4 / full;
    const [w, h] = [Math.floor(full / columns), Math.floor(height / rows)];
    const k = Math.max(1, Math.ceil(Math.max(w, h) / FINEST));
    const [width, tall] = [Math.max(1, Math.floor(w / k)), Math.max(1, Math.floor(h / k))];
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

interface Cell {
  width: number;
  height: number;
  values: Float32Array;
}

const joined = new WeakMap<Float32Array, Map<string, Float32Array>>();

/** The pictures of a body in one block; null where there are none. Those of another size are left out. */
export function picturesOf({ builder, swarm, body, notices }: DrawContext): Pictures | null {
  const { picture, pictures, columns, rows } = body.dials;
  const ids = (pictures as string[] | undefined) ?? (picture ? [picture as string] : []);
  const [across, down] = [(columns as number | undefined) ?? 1, (rows as number | undefined) ?? 1];
  const cells = ids.flatMap((id) => {
    const item = builder.scene.stock(id);
    if (item?.type !== 'picture') return [];
    return Array.from({ length: across * down }, (_, n) => ({
      id,
      serial: serialOf(item),
      cell: cellOf(item, across, down, n),
    }));
  });
  const first = cells[0];
  if (!first) return null;
  const { width, height } = first.cell;
  const same = cells.filter(({ cell }) => cell.width === width && cell.height === height);
  if (same.length < cells.length) {
    const odd = cells.find(({ cell }) => cell.width !== width || cell.height !== height)!;
    const size = (c: Cell): string => `${String(c.width)} × ${String(c.height)}`;
    notices.push(
      `${swarm.name}: the picture ${odd.id} has ${size(odd.cell)} pixels and the first of its set ${size(first.cell)}; it is left out. Give all pictures of a set one size.`,
    );
  }
  const key = `${[...new Set(same.map((c) => c.serial))].join('.')}.${String(across)}.${String(down)}`;
  let values = same.length === 1 ? first.cell.values : joined.get(first.cell.values)?.get(key);
  if (!values) {
    const size = 4 * width * height;
    values = new Float32Array(size * same.length);
    same.forEach(({ cell }, i) => values!.set(cell.values, i * size));
    const known = joined.get(first.cell.values) ?? new Map<string, Float32Array>();
    joined.set(first.cell.values, known.set(key, values));
  }
  const block = builder.data.block(values);
  const all = values;
  const coverage = memo(all, 'coverage', () => {
    let sum = 0;
    for (let i = 3; i < all.length; i += 4) sum += all[i]!;
    return Math.max(1e-3, sum / (all.length / 4));
  });
  return { block, width, height, frames: same.length, coverage };
}
