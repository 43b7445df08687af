import { kindOf, type Shelf } from '../../sections';
import { PART_LISTS } from '../../sections/lists';
import type { Kind } from '../../sections/kinds';
import type { Choice, Piece } from '../../piece/types';
import { hasField } from '../../stock/places/distanceField';
import type { Mesh } from '../../stock/types';
import type { StockFiles } from '../../stock/entry';
import { Scene } from '../scene';

export interface FieldWanted {
  /** The part that wants it. */
  name: string;
  mesh: Mesh;
  detail: number;
}

/** Distance fields that a piece needs and that are not built yet; see buildField. */
export function fieldsWanted(piece: Piece, files: StockFiles): FieldWanted[] {
  const scene = new Scene(piece, files);
  const wanted: FieldWanted[] = [];
  const add = (name: string, shelf: Shelf, { kind, dials }: Choice): void => {
    const found: Kind = kindOf(shelf, kind);
    const measured = found.measures?.(dials);
    if (!measured) return;
    const { detail } = measured;
    const mesh = scene.stock(measured.mesh);
    if (mesh?.type !== 'mesh' || mesh.triangles.length === 0 || hasField(mesh, detail)) return;
    wanted.push({ name, mesh, detail });
  };
  for (const list of PART_LISTS) {
    for (const part of piece[list]) if (part.on) add(part.name, list, part);
  }
  for (const { on, name, emitter } of piece.swarms) if (on) add(name, 'emitters', emitter);
  return wanted;
}
