import { lightOf } from '../../../stock/places/pictureParts';
import { sampledMoving } from '../../../language/moving';
import { trackBuffer, type BlockTrack } from '../../../language/track';
import { thenDo } from '../../../stock/clip/soon';
import { memo, serialOf } from '../../../stock/memo';
import type { MovingPicture, Picture } from '../../../stock/types';
import type { DrawContext } from './context';
import type { Pictures } from './draw';

/** Pictures of particles are kept at no more pixels than this along their longer side. */
const FINEST = 256;

/** What is kept of so many pixels, and how many of them along are one of it. */
function cellSize({ width, height }: { width: number; height: number }) {
  const every = Math.max(1, Math.ceil(Math.max(width, height) / FINEST));
  const kept = (n: number): number => Math.max(1, Math.floor(n / every));
  return { width: kept(width), height: kept(height), every };
}

/** Linear light times opacity, and opacity; of one cell of a sheet, halved until it is small enough. */
function cellOf(picture: Picture, columns: number, rows: number, n: number): Cell {
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

interface Cell {
  width: number;
  height: number;
  values: Float32Array;
}

/** A moving picture as particles show it: as of the frame that is drawn. */
function movingPicture(builder: DrawContext['builder'], moving: MovingPicture): Pictures {
  const { width, height } = cellSize(sampledMoving(moving));
  const track: BlockTrack = {
    name: `drawn.${moving.name}`,
    words: 4 * width * height,
    blockAt: moving.stateAt,
    read(state) {
      return thenDo(moving.at(state), (picture) => cellOf(picture, 1, 1, 0).values);
    },
  };
  const block = trackBuffer(track);
  builder.data.tracks.set(block, track);
  // How much of it is covered changes: most clips cover all.
  return { block, width, height, frames: 1, coverage: 1 };
}

const joined = new WeakMap<Float32Array, Map<string, Float32Array>>();

/** The pictures of a body in one block; null where there are none. Those of another size are left out. */
export function picturesOf({ builder, swarm, body, notices }: DrawContext): Pictures | null {
  const { picture, pictures, columns, rows } = body.dials;
  const moving = picture ? builder.scene.picture(picture as string) : undefined;
  if (moving?.type === 'moving') return movingPicture(builder, moving);
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
