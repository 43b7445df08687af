import type { Mesh } from '@vast-swarm/core/stock';
import type { Vector } from '@vast-swarm/core/feeds';

/** Distances of solids by the book, in double precision: what the engines are held against. */

export const add = (a: Vector, b: Vector, k = 1): Vector => [
  a[0] + k * b[0],
  a[1] + k * b[1],
  a[2] + k * b[2],
];
export const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const times = (a: Vector, k: number): Vector => [a[0] * k, a[1] * k, a[2] * k];
export const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
export const size = (a: Vector): number => Math.sqrt(dot(a, a));
export const unit = (a: Vector): Vector => times(a, 1 / size(a));

/** About x, then y, then z, by degrees. */
export function turned(v: Vector, [ax, ay, az]: Vector, back = false): Vector {
  const about = (p: Vector, axis: number, degrees: number): Vector => {
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    const [i, j] = [(axis + 1) % 3, (axis + 2) % 3];
    const out: Vector = [...p];
    out[i] = c * p[i]! - s * p[j]!;
    out[j] = s * p[i]! + c * p[j]!;
    return out;
  };
  return back
    ? about(about(about(v, 2, -az), 1, -ay), 0, -ax)
    : about(about(about(v, 0, ax), 1, ay), 2, az);
}

export type Shape = (p: Vector) => number;

export const planeShape: Shape = (p) => p[1];
export const ballShape =
  (radius: number): Shape =>
  (p) =>
    size(p) - radius;

export const boxShape =
  (edges: Vector): Shape =>
  (p) => {
    const q = p.map((c, i) => Math.abs(c) - edges[i]! / 2) as Vector;
    const out = q.map((c) => Math.max(c, 0)) as Vector;
    return size(out) + Math.min(0, Math.max(...q));
  };

export function segmentDistance(p: Vector, a: Vector, b: Vector): number {
  const way = add(b, a, -1);
  const t = Math.max(0, Math.min(1, dot(add(p, a, -1), way) / dot(way, way)));
  return size(add(add(p, a, -1), way, -t));
}

export const capsuleShape =
  (a: Vector, b: Vector, radius: number): Shape =>
  (p) =>
    segmentDistance(p, a, b) - radius;

/** A closed convex mesh: the farthest of its faces' planes, which is never more than the distance. */
export function facesShape({ positions, triangles }: Mesh): Shape {
  const corner = (i: number): Vector => {
    const at = 3 * triangles[i]!;
    return [positions[at]!, positions[at + 1]!, positions[at + 2]!];
  };
  const planes = Array.from({ length: triangles.length / 3 }, (_, t) => {
    const [a, b, c] = [corner(3 * t), corner(3 * t + 1), corner(3 * t + 2)];
    const normal = unit(cross(add(b, a, -1), add(c, a, -1)));
    return { normal, off: dot(normal, a) };
  });
  return (p) => Math.max(...planes.map(({ normal, off }) => dot(normal, p) - off));
}

/** A flat square about the origin across y, so thick to each side that its rim is round. */
export const sheetShape =
  (side: number, half: number): Shape =>
  ([x, y, z]) =>
    size([Math.max(0, Math.abs(x) - side / 2), y, Math.max(0, Math.abs(z) - side / 2)]) - half;

/** Unit vector away from a shape, by differences. */
export function slope(shape: Shape, p: Vector): Vector {
  const d = 1e-6;
  const part = (i: number): number => {
    const [low, high]: [Vector, Vector] = [[...p], [...p]];
    low[i]! -= d;
    high[i]! += d;
    return shape(high) - shape(low);
  };
  return unit([part(0), part(1), part(2)]);
}

/** A ball of flat faces, closed. */
export function ballMesh(rings: number, sectors: number): Mesh {
  const positions: number[] = [0, 1, 0];
  const triangles: number[] = [];
  for (let r = 1; r < rings; r++) {
    for (let s = 0; s < sectors; s++) {
      const [a, b] = [(Math.PI * r) / rings, (2 * Math.PI * s) / sectors];
      positions.push(Math.sin(a) * Math.cos(b), Math.cos(a), Math.sin(a) * Math.sin(b));
    }
  }
  positions.push(0, -1, 0);
  const at = (r: number, s: number): number => 1 + (r - 1) * sectors + (s % sectors);
  const last = positions.length / 3 - 1;
  for (let s = 0; s < sectors; s++) {
    triangles.push(0, at(1, s + 1), at(1, s), last, at(rings - 1, s), at(rings - 1, s + 1));
    for (let r = 1; r < rings - 1; r++) {
      triangles.push(at(r, s), at(r, s + 1), at(r + 1, s));
      triangles.push(at(r, s + 1), at(r + 1, s + 1), at(r + 1, s));
    }
  }
  return mesh(positions, triangles);
}

/** A flat square sheet of two triangles, 2 m a side, facing up y. */
export const sheetMesh = (): Mesh =>
  mesh([-1, 0, -1, -1, 0, 1, 1, 0, 1, 1, 0, -1], [0, 1, 2, 0, 2, 3]);

function mesh(positions: number[], triangles: number[]): Mesh {
  return {
    type: 'mesh',
    positions: Float32Array.from(positions),
    triangles: Uint32Array.from(triangles),
  };
}
