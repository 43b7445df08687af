import type { Mesh } from '../../stock/types';

/** How much of each edge is cut off, of a side of 1. */
const CUT = 0.09;

/** A grain of salt: a cube whose edges and corners are cut, so that they catch light. */
export function crystal(): Mesh {
  const [far, near] = [0.5, 0.5 - CUT];
  const positions: number[] = [];
  const index = new Map<string, number>();
  // Three vertices at each corner, one on each of the faces that meet there.
  const vertex = (signs: readonly number[], axis: number): number => {
    const key = [...signs, axis].join();
    const known = index.get(key);
    if (known !== undefined) return known;
    positions.push(...signs.map((s, k) => s * (k === axis ? far : near)));
    index.set(key, positions.length / 3 - 1);
    return positions.length / 3 - 1;
  };
  const triangles: number[] = [];
  /** A polygon whose corners go either way round; turned so that it faces outward. */
  const face = (...corners: number[]): void => {
    const at = (i: number): number[] => positions.slice(3 * corners[i]!, 3 * corners[i]! + 3);
    const [a, b, c] = [at(0), at(1), at(2)];
    const [u, v] = [b.map((x, k) => x - a[k]!), c.map((x, k) => x - a[k]!)] as [number[], number[]];
    const normal = [
      u[1]! * v[2]! - u[2]! * v[1]!,
      u[2]! * v[0]! - u[0]! * v[2]!,
      u[0]! * v[1]! - u[1]! * v[0]!,
    ];
    const outward = normal.reduce((sum, n, k) => sum + n * a[k]!, 0) > 0;
    const round = outward ? corners : [...corners].reverse();
    for (let i = 2; i < round.length; i++) triangles.push(round[0]!, round[i - 1]!, round[i]!);
  };
  const both = [-1, 1];
  for (let axis = 0; axis < 3; axis++) {
    const [p, q] = [(axis + 1) % 3, (axis + 2) % 3];
    const signs = (a: number, b: number, c: number): number[] => {
      const s = [0, 0, 0];
      [s[axis], s[p], s[q]] = [a, b, c];
      return s;
    };
    for (const s of both) {
      face(
        ...[
          [1, 1],
          [-1, 1],
          [-1, -1],
          [1, -1],
        ].map(([a, b]) => vertex(signs(s, a!, b!), axis)),
      );
    }
    // Edges along this axis: between the faces of the other two.
    for (const a of both) {
      for (const b of both) {
        face(
          vertex(signs(1, a, b), p),
          vertex(signs(1, a, b), q),
          vertex(signs(-1, a, b), q),
          vertex(signs(-1, a, b), p),
        );
      }
    }
  }
  for (const x of both) {
    for (const y of both) {
      for (const z of both) face(...[0, 1, 2].map((axis) => vertex([x, y, z], axis)));
    }
  }
  return {
    type: 'mesh',
    positions: Float32Array.from(positions),
    triangles: Uint32Array.from(triangles),
  };
}
