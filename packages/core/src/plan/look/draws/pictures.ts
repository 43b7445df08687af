import { sampledMoving } from '../../../stock/clip/pixels';
import { cellOf, cellSize, type Cell } from '../../../stock/places/pictureCell';
import { seenTrack, trackBuffer } from '../../../language/track';
import { memo, serialOf } from '../../../stock/memo';
import type { MovingPicture } from '../../../stock/types';
import type { DrawContext } from './context';
import type { Pictures } from './draw';

/** A moving picture as particles show it: as of the frame that is drawn. */
function movingPicture(builder: DrawContext['builder'], moving: MovingPicture): Pictures {
  const { width, height } = cellSize(sampledMoving(moving));
  const track = seenTrack(moving, 'drawn', 4 * width * height, { find: 'cell' });
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
