import type { Choice, Piece } from '../piece/schema';
import { hasField } from '../stock/field';
import type { Mesh, StockFiles } from '../stock/stock';
import { Scene } from './scene';

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
  const add = (name: string, { dials }: Choice): void => {
    const mesh = scene.stock(dials.mesh as string);
    const detail = dials.detail as number;
    if (mesh?.type !== 'mesh' || mesh.triangles.length === 0 || hasField(mesh, detail)) return;
    wanted.push({ name, mesh, detail });
  };
  for (const c of piece.colliders) if (c.on && c.kind === 'mesh') add(c.name, c);
  for (const f of piece.forces)
    if (f.on && f.kind === 'attraction' && f.dials.to === 'mesh') add(f.name, f);
  for (const { on, name, emitter } of piece.swarms) {
    if (on && emitter.kind === 'mesh' && emitter.dials.from === 'inside') add(name, emitter);
  }
  return wanted;
}
