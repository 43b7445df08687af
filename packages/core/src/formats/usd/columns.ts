import type { INSTANCE } from '../../plan/look/instances';
import type { ParticleTable } from '../particleTable';
import type { Columns } from './samples';

/** Columns of a table by their names. */
export function columnsOf({ columns, values }: ParticleTable): Record<string, Float64Array> {
  return Object.fromEntries(columns.map((name, i) => [name, values[i]!]));
}

/** Copies of a mesh body as an engine gives them, by slot. */
export type InstancesBySlot = Readonly<Record<(typeof INSTANCE)[number], Float32Array>>;

/** Columns of the copies of a mesh, one for each particle of a table. */
export function instanceColumns(table: ParticleTable, by: InstancesBySlot): Columns {
  const own = columnsOf(table);
  const { rows } = table;
  const capacity = by.xx.length;
  const names = ['qw', 'qx', 'qy', 'qz', 'sx', 'sy', 'sz', 'r', 'g', 'b', 'a'] as const;
  const made = Object.fromEntries(names.map((n) => [n, new Float64Array(rows)])) as Record<
    (typeof names)[number],
    Float64Array
  >;
  for (let i = 0; i < rows; i++) {
    const slot = own.id![i]! % capacity;
    const axis = (k: 'x' | 'y' | 'z'): [number, number, number] => [
      by[`${k}x`][slot]!,
      by[`${k}y`][slot]!,
      by[`${k}z`][slot]!,
    ];
    const axes = [axis('x'), axis('y'), axis('z')] as const;
    const sizes = axes.map((a) => Math.hypot(...a));
    const [w, x, y, z] = quaternionOf(axes.map((a, k) => a.map((v) => v / (sizes[k]! || 1))));
    const values = [w, x, y, z, ...sizes];
    const seen = [by.ir[slot]!, by.ig[slot]!, by.ib[slot]!, by.io[slot]!];
    names.forEach((name, k) => (made[name][i] = [...values, ...seen][k]!));
  }
  return { ...own, ...made, proto: new Uint8Array(rows) };
}

/**
 * The rotation that brings the axes of the world to others, as a unit quaternion with its real part first (S. W. Shepperd,
 * "Quaternion from rotation matrix", 1978).
 *
 * @param axes unit vectors at right angles, right-handed
 */
export function quaternionOf(
  axes: readonly (readonly number[])[],
): [w: number, x: number, y: number, z: number] {
  const at = (row: number, column: number): number => axes[column]![row]!;
  const trace = at(0, 0) + at(1, 1) + at(2, 2);
  const squares = [trace, at(0, 0), at(1, 1), at(2, 2)];
  const largest = squares.indexOf(Math.max(...squares));
  if (largest === 0) {
    const s = 2 * Math.sqrt(1 + trace);
    return [s / 4, (at(2, 1) - at(1, 2)) / s, (at(0, 2) - at(2, 0)) / s, (at(1, 0) - at(0, 1)) / s];
  }
  const i = largest - 1;
  const [j, k] = [(i + 1) % 3, (i + 2) % 3];
  const s = 2 * Math.sqrt(1 + at(i, i) - at(j, j) - at(k, k));
  const parts = [0, 0, 0];
  parts[i] = s / 4;
  parts[j] = (at(j, i) + at(i, j)) / s;
  parts[k] = (at(k, i) + at(i, k)) / s;
  return [(at(k, j) - at(j, k)) / s, parts[0]!, parts[1]!, parts[2]!];
}
