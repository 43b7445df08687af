import type { Mesh } from '../../stock/types';

/**
 * A mesh from a sheet of `columns` × `rows` quads: `at` gives the place for u and v from 0 to 1.
 * Where `round` is set the last column is joined to the first. Caps close the first and last row.
 */
export function surface(
  columns: number,
  rows: number,
  at: (u: number, v: number) => [number, number, number],
  { round = false, caps = false } = {},
): Mesh {
  const across = round ? columns : columns + 1;
  const points: number[] = [];
  for (let j = 0; j <= rows; j++) {
    for (let i = 0; i < across; i++) points.push(...at(i / columns, j / rows));
  }
  const triangles: number[] = [];
  const index = (i: number, j: number): number => j * across + (i % across);
  for (let j = 0; j < rows; j++) {
    for (let i = 0; i < columns; i++) {
      const [a, b, c, d] = [index(i, j), index(i + 1, j), index(i + 1, j + 1), index(i, j + 1)];
      triangles.push(a, b, c, a, c, d);
    }
  }
  if (caps) {
    for (const [row, turned] of [
      [0, true],
      [rows, false],
    ] as const) {
      const middle = points.length / 3;
      const mean = [0, 1, 2].map((axis) => {
        let sum = 0;
        for (let i = 0; i < across; i++) sum += points[3 * index(i, row) + axis]!;
        return sum / across;
      });
      points.push(...mean);
      for (let i = 0; i < columns; i++) {
        const [a, b] = [index(i, row), index(i + 1, row)];
        triangles.push(middle, ...(turned ? [b, a] : [a, b]));
      }
    }
  }
  return {
    type: 'mesh',
    positions: Float32Array.from(points),
    triangles: Uint32Array.from(triangles),
  };
}

/** Paints a mesh by the place of each vertex. */
export function painted(mesh: Mesh, colour: (x: number, y: number, z: number) => number[]): Mesh {
  const { positions } = mesh;
  const colours = new Float32Array(positions.length);
  for (let v = 0; v < positions.length; v += 3) {
    colours.set(colour(positions[v]!, positions[v + 1]!, positions[v + 2]!), v);
  }
  return { ...mesh, colours };
}
