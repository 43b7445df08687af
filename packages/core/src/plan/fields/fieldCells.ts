import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { FieldKind, FieldReading } from '../../sections/kinds';
import type { KernelBuilder } from '../../language/builder';
import type { DialReader } from '../../language/dialReader';
import type { Part } from '../../piece/types';

/** The cells of a field: x first, then y, then z; cell (0, 0, 0) is at the low corner of the box. */

/** A box of cells as arithmetic, in the world frame. */
export interface FieldBox {
  /** Cells along x, y and z. */
  cells: readonly [number, number, number];
  /** The low corner, in metres. */
  low: Vec3;
  /** Sides of a cell, in metres. */
  side: Vec3;
}

export function keptBuffer(field: string, name: string): string {
  return `field/${field}/kept/${name}`;
}

export function leftBuffer(field: string, name: string): string {
  return `field/${field}/left/${name}`;
}

export function cellCountOf(kind: FieldKind, { dials }: Part): number {
  const [x, y, z] = kind.cells(dials);
  return x * y * z;
}

export function boxOf(kind: FieldKind, force: Part, dial: DialReader): FieldBox {
  const cells = kind.cells(force.dials);
  const { centre, size } = kind.box(dial);
  const part = (i: number): Expr =>
    size.parts[i]!.abs()
      .max(1e-6)
      .mul(1 / cells[i]!);
  return { cells, low: centre.sub(size.scale(0.5)), side: new Vec3(part(0), part(1), part(2)) };
}

/** A place in cells from the low corner. */
function cellsFromLow({ low, side }: FieldBox, place: Vec3): Expr[] {
  return place.sub(low).parts.map((e, i) => e.div(side.parts[i]!));
}

function indexOf({ cells: [x, y] }: FieldBox, [i, j, k]: readonly Expr[]): Expr {
  return k!.mul(y).add(j!).mul(x).add(i!);
}

/** The number of the cell that a place is in, where it is in one. */
export function cellIn(box: FieldBox, place: Vec3): { index: Expr; inside: Expr } {
  const at = cellsFromLow(box, place);
  const inside = at.map((e, i) => e.ge(0).and(e.lt(box.cells[i]!))).reduce((a, b) => a.and(b));
  // A place that is no number is in no cell; the index stays within the box all the same.
  const whole = at.map((e, i) =>
    e
      .floor()
      .toInt()
      .clamp(0, box.cells[i]! - 1),
  );
  return { index: indexOf(box, whole), inside };
}

/** Reads a field in the motion of a swarm. */
export function fieldReading(
  builder: KernelBuilder,
  force: Part,
  kind: FieldKind,
  dial: DialReader,
): FieldReading {
  const box = boxOf(kind, force, dial);
  const g = builder.graph;
  const count = cellCountOf(kind, force);
  const corners = Array.from({ length: 8 }, (_, n) => [n & 1, (n >> 1) & 1, n >> 2]);
  return {
    side: box.side,
    at(name, place) {
      const buffer = keptBuffer(force.id, name);
      builder.data.fields.set(buffer, count);
      // Cells stand for their middles.
      const from = cellsFromLow(box, place).map((e) => e.sub(0.5));
      const low = from.map((e, i) => e.floor().clamp(-1, box.cells[i]!));
      const part = from.map((e, i) => e.sub(low[i]!).clamp(0, 1));
      return corners
        .map((corner) => {
          const cell = low.map((e, i) => e.add(corner[i]!));
          const inside = cell
            .map((e, i) => e.ge(0).and(e.lt(box.cells[i]!)))
            .reduce((a, b) => a.and(b));
          const whole = cell.map((e, i) => e.toInt().clamp(0, box.cells[i]! - 1));
          const weight = part
            .map((e, i) => (corner[i] ? e : g.float(1).sub(e)))
            .reduce((a, b) => a.mul(b));
          return inside.select(g.load(buffer, indexOf(box, whole)).mul(weight), g.float(0));
        })
        .reduce((a, b) => a.add(b));
    },
  };
}
