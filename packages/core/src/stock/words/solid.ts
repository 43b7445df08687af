import type { Contour } from './contours';
import type { Filled } from './fill';

/** Vertices, x, y and z of each, and triangles by their numbers. */
export interface Surface {
  positions: number[];
  triangles: number[];
}

/** Walls that turn by less than this are one round wall: the cosine of 40 degrees. */
const ROUND = Math.cos((40 * Math.PI) / 180);

/** A letter's area at z = 0, or where it has a depth, its solid about z = 0. */
export function surfaceOf({ triangles, edges }: Filled, depth: number): Surface {
  const surface: Surface = { positions: [], triangles: [] };
  if (depth === 0) {
    face(surface, triangles, 0, false);
    return surface;
  }
  face(surface, triangles, depth / 2, false);
  face(surface, triangles, -depth / 2, true);
  for (const edge of edges) wall(surface, edge, depth / 2);
  return surface;
}

/** A flat side; seen from behind, it is counter-clockwise the other way round. */
function face(to: Surface, triangles: readonly number[], z: number, behind: boolean): void {
  const known = new Map<string, number>();
  const found: number[] = [];
  for (let i = 0; i < triangles.length; i += 2) {
    const [x, y] = [triangles[i]!, triangles[i + 1]!];
    const key = `${String(x)} ${String(y)}`;
    let vertex = known.get(key);
    if (vertex === undefined) {
      known.set(key, (vertex = to.positions.length / 3));
      to.positions.push(x, y, z);
    }
    found.push(vertex);
  }
  for (let i = 0; i < found.length; i += 3) {
    const [a, b, c] = [found[i]!, found[i + 1]!, found[i + 2]!];
    to.triangles.push(a, behind ? c : b, behind ? b : c);
  }
}

/** The wall along an edge. Its corners have two pairs of vertices, so that they look sharp. */
function wall({ positions, triangles }: Surface, edge: Contour, half: number): void {
  const n = edge.length / 2;
  const way = (i: number): [number, number] => {
    const [from, to] = [2 * (i % n), 2 * ((i + 1) % n)];
    const [x, y] = [edge[to]! - edge[from]!, edge[to + 1]! - edge[from + 1]!];
    const length = Math.hypot(x, y) || 1;
    return [x / length, y / length];
  };
  const pair = (i: number): number => {
    const [x, y] = [edge[2 * i]!, edge[2 * i + 1]!];
    return positions.push(x, y, half, x, y, -half) / 3 - 2;
  };
  /** The pairs with which each place ends what comes before it, and begins what comes behind it. */
  const pairs = Array.from({ length: n }, (_, i) => {
    const [before, behind] = [way(i + n - 1), way(i)];
    const first = pair(i);
    const round = before[0] * behind[0] + before[1] * behind[1] > ROUND;
    return [first, round ? first : pair(i)] as const;
  });
  for (let i = 0; i < n; i++) {
    const [a, b] = [pairs[i]![1], pairs[(i + 1) % n]![0]];
    triangles.push(a, a + 1, b, b, a + 1, b + 1);
  }
}
