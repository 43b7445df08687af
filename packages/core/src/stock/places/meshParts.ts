import { aliasOf, type Alias } from './alias';
import { boundsOf } from '../points';
import { memo } from '../memo';
import type { Mesh } from '../types';

/** Unit normals of the vertices: of the triangles around them, by area. */
export function vertexNormals(mesh: Mesh): Float32Array {
  return memo(mesh, 'normals', () => {
    const { positions, triangles } = mesh;
    const normals = new Float32Array(positions.length);
    for (let t = 0; t < triangles.length; t += 3) {
      const n = doubledNormal(mesh, t);
      for (let k = 0; k < 3; k++) {
        const v = 3 * triangles[t + k]!;
        for (let axis = 0; axis < 3; axis++) normals[v + axis]! += n[axis]!;
      }
    }
    for (let v = 0; v < normals.length; v += 3) {
      const length = Math.hypot(normals[v]!, normals[v + 1]!, normals[v + 2]!);
      if (length === 0) normals[v + 1] = 1;
      else for (let axis = 0; axis < 3; axis++) normals[v + axis]! /= length;
    }
    return normals;
  });
}

/** Coordinates of the vertices, two each: of the first corner that stands at one. */
export function vertexCoordinates(mesh: Mesh): Float32Array {
  return memo(mesh, 'coordinates', () => {
    const out = new Float32Array((2 * mesh.positions.length) / 3).fill(0.5);
    for (let i = mesh.triangles.length - 1; i >= 0; i--) {
      out.set(mesh.coordinates!.subarray(2 * i, 2 * i + 2), 2 * mesh.triangles[i]!);
    }
    return out;
  });
}

/** Cross product of two sides of the triangle at `t`: twice its area along its normal. */
export function doubledNormal({ positions, triangles }: Mesh, t: number): [number, number, number] {
  const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
  const side = (to: number, axis: number): number => positions[to + axis]! - positions[a + axis]!;
  const [ux, uy, uz] = [side(b, 0), side(b, 1), side(b, 2)];
  const [vx, vy, vz] = [side(c, 0), side(c, 1), side(c, 2)];
  return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
}

/** Faces by area: the numbers of their vertices (bits of i32), three a face, and their alias table. */
export function facesByArea(mesh: Mesh): { corners: Float32Array; alias: Alias; count: number } {
  return memo(mesh, 'faces', () => {
    const areas = new Float64Array(mesh.triangles.length / 3);
    for (let t = 0; t < areas.length; t++) areas[t] = Math.hypot(...doubledNormal(mesh, 3 * t));
    const corners = new Float32Array(Int32Array.from(mesh.triangles).buffer);
    return { corners, alias: aliasOf(areas), count: areas.length };
  });
}

/** Edges by length, each once however many faces share it: two vertices an edge. */
export function edgesByLength(mesh: Mesh): { ends: Float32Array; alias: Alias; count: number } {
  return memo(mesh, 'edges', () => {
    const { positions, triangles } = mesh;
    const seen = new Set<number>();
    const ends: number[] = [];
    const vertices = positions.length / 3;
    for (let t = 0; t < triangles.length; t++) {
      const a = triangles[t]!;
      const b = triangles[t % 3 === 2 ? t - 2 : t + 1]!;
      const key = Math.min(a, b) * vertices + Math.max(a, b);
      if (a === b || seen.has(key)) continue;
      seen.add(key);
      ends.push(a, b);
    }
    const lengths = Float64Array.from({ length: ends.length / 2 }, (_, i) => {
      const [a, b] = [3 * ends[2 * i]!, 3 * ends[2 * i + 1]!];
      const part = (axis: number): number => positions[a + axis]! - positions[b + axis]!;
      return Math.hypot(part(0), part(1), part(2));
    });
    const words = new Float32Array(Int32Array.from(ends).buffer);
    return { ends: words, alias: aliasOf(lengths), count: lengths.length };
  });
}

/** Whether every edge belongs to two triangles, so that there is an inside. */
export function isClosed(mesh: Mesh): boolean {
  return memo(mesh, 'closed', () => {
    if (mesh.triangles.length === 0) return false;
    const welded = weldedVertices(mesh);
    const { triangles } = mesh;
    // Each edge as a number, twice that and one more where it is gone along upwards.
    const edges = new Float64Array(triangles.length);
    const most = mesh.positions.length / 3;
    let count = 0;
    for (let t = 0; t < triangles.length; t++) {
      const from = welded[triangles[t]!]!;
      const to = welded[triangles[t % 3 === 2 ? t - 2 : t + 1]!]!;
      if (from === to) continue;
      const edge = Math.min(from, to) * most + Math.max(from, to);
      edges[count++] = 2 * edge + (from < to ? 1 : 0);
    }
    const sorted = edges.subarray(0, count).sort();
    // Each edge is gone along as often one way as the other.
    for (let i = 0; i < count;) {
      const edge = Math.floor(sorted[i]! / 2);
      let balance = 0;
      for (; i < count && Math.floor(sorted[i]! / 2) === edge; i++) {
        balance += sorted[i]! % 2 === 1 ? 1 : -1;
      }
      if (balance !== 0) return false;
    }
    return true;
  });
}

/** x, y and z of points as arrays of their own, as kernels read them. */
export function columns(item: object, key: string, points: Float32Array): Float32Array[] {
  return memo(item, `columns.${key}`, () =>
    [0, 1, 2].map((axis) =>
      Float32Array.from({ length: points.length / 3 }, (_, i) => points[3 * i + axis]!),
    ),
  );
}

/** For each vertex the first at its place, as near as a millionth of the mesh: files often repeat them for normals. */
function weldedVertices({ positions }: Mesh): Int32Array {
  const [low, high] = boundsOf(positions);
  const grain = Math.max(1e-30, ...high.map((h, i) => h - low[i]!)) * 1e-6;
  const first = low.map((l) => Math.round(l / grain));
  const at = (v: number, axis: number): number =>
    Math.round(positions[3 * v + axis]! / grain) - first[axis]!;
  // By x and y in one number, then by z.
  const found = new Map<number, Map<number, number>>();
  return Int32Array.from({ length: positions.length / 3 }, (_, v) => {
    const key = at(v, 0) * 2 ** 21 + at(v, 1);
    const z = at(v, 2);
    let column = found.get(key);
    if (!column) found.set(key, (column = new Map<number, number>()));
    const known = column.get(z);
    if (known === undefined) column.set(z, v);
    return known ?? v;
  });
}
