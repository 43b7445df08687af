import { coarserOf } from '../../../stock/places/coarser';
import { vertexNormals, doubledNormal } from '../../../stock/places/meshParts';
import { boundsOf } from '../../../stock/points';
import { memo } from '../../../stock/memo';
import type { Mesh } from '../../../stock/types';

/** Most forms of a mesh, from the finest to the coarsest. */
export const MOST_LEVELS = 8;

/** A form of a mesh: its first triangle, how many it has, and how far it lies off the finest. */
export interface Level {
  first: number;
  count: number;
  /** As a part of the mesh's longest side. */
  error: number;
}

/** Copies that are no larger, in pixels, are points with the light of the faces that are seen. */
export const POINT_PIXELS = 2;
/** How far, in pixels, a coarser form may lie off the finest. */
export const OFF_PIXELS = 0.3;

/** Writes forms as the engines read them, three words each, from `at` on. */
export function putLevels(words: Int32Array, at: number, levels: readonly Level[]): void {
  const singles = new Float32Array(words.buffer, words.byteOffset, words.length);
  levels.forEach(({ first, count, error }, i) => {
    words.set([first, count], at + 3 * i);
    singles[at + 3 * i + 2] = error;
  });
}

/** A mesh as it is drawn, its longest side 1: all its forms, one behind the other. */
export interface Forms {
  /** Three corners to a triangle, each as x, y, z and the normal there. */
  corners: Float32Array;
  /**
   * Five numbers to a triangle: its normal, twice its area long, how far along it its plane lies, and
   * whether it is flat, or the first half of a flat parallelogram, see FACES.
   */
  faces: Float32Array;
  levels: Level[];
  /** Middle and half size of its bounds. */
  middle: number[];
  half: number[];
}

/**
 * @param smooth whether light runs over its edges
 * @param base whether it stands on its origin, instead of having it in the middle
 */
export function formsOf(mesh: Mesh, smooth: boolean, base: boolean): Forms {
  const coarser = coarserOf(mesh);
  const key = `forms.${String(smooth)}.${String(base)}.${String(coarser.length)}`;
  return memo(mesh, key, () => {
    const [low, high] = boundsOf(mesh.positions);
    const size = Math.max(...high.map((h, i) => h - low[i]!)) || 1;
    const origin = high.map((h, i) => (base && i === 1 ? low[1]! : (h + low[i]!) / 2));
    const all = [{ triangles: mesh.triangles, error: 0 }, ...coarser];
    const levels: Level[] = [];
    for (const { triangles, error } of all.slice(0, MOST_LEVELS)) {
      const before = levels.at(-1);
      const first = before ? before.first + before.count : 0;
      levels.push({ first, count: triangles.length / 3, error });
    }
    const { first, count } = levels.at(-1)!;
    const forms = { corners: new Float32Array(18 * (first + count)), levels };
    all.slice(0, MOST_LEVELS).forEach(({ triangles }, i) => {
      const form = { ...mesh, triangles };
      const to = forms.corners.subarray(18 * levels[i]!.first);
      putCorners(form, to, smooth, (v, axis) => (v - origin[axis]!) / size);
    });
    return {
      ...forms,
      faces: facesOf(forms.corners),
      middle: high.map((h, i) => ((h + low[i]!) / 2 - origin[i]!) / size),
      half: high.map((h, i) => (h - low[i]!) / 2 / size),
    };
  });
}

function putCorners(
  mesh: Mesh,
  to: Float32Array,
  smooth: boolean,
  place: (v: number, axis: number) => number,
): void {
  const { positions, triangles } = mesh;
  const normals = smooth ? vertexNormals(mesh) : null;
  for (let t = 0; t < triangles.length; t += 3) {
    const face = doubledNormal(mesh, t);
    const length = Math.sqrt(face[0] ** 2 + face[1] ** 2 + face[2] ** 2) || 1;
    for (let k = t; k < t + 3; k++) {
      const v = 3 * triangles[k]!;
      for (let axis = 0; axis < 3; axis++) {
        to[6 * k + axis] = place(positions[v + axis]!, axis);
        to[6 * k + 3 + axis] = normals ? normals[v + axis]! : face[axis]! / length;
      }
    }
  }
}

/**
 * Kinds of faces, by number, for those that draw them: lit as the normals of its corners have it, flat, or the
 * first half of a flat parallelogram.
 */
export const FACES = ['curved', 'flat', 'quad'] as const;
/** Numbers of a face: normal, distance, kind. */
export const FACE_SIZE = 5;

function facesOf(corners: Float32Array): Float32Array {
  const count = corners.length / 18;
  const faces = new Float32Array(FACE_SIZE * count);
  for (let t = 0; t < count; t++) {
    for (let axis = 0; axis < 3; axis++) {
      const [i, j] = [18 * t + ((axis + 1) % 3), 18 * t + ((axis + 2) % 3)];
      const [ui, uj] = [corners[i + 6]! - corners[i]!, corners[j + 6]! - corners[j]!];
      const [vi, vj] = [corners[i + 12]! - corners[i]!, corners[j + 12]! - corners[j]!];
      const normal = ui * vj - uj * vi;
      faces[FACE_SIZE * t + axis] = normal;
      faces[FACE_SIZE * t + 3]! += normal * corners[18 * t + axis]!;
    }
    if (isFlat(corners, t)) faces[FACE_SIZE * t + 4] = FACES.indexOf('flat');
  }
  for (let t = 0; t + 1 < count; t++) {
    if (!isSquare(corners, t)) continue;
    faces[FACE_SIZE * t + 4] = FACES.indexOf('quad');
    // The second half goes with the first.
    t += 1;
  }
  return faces;
}

function sameAt(list: Float32Array, a: number, b: number, length: number): boolean {
  for (let i = 0; i < length; i++) if (list[a + i] !== list[b + i]) return false;
  return true;
}

function isFlat(corners: Float32Array, t: number): boolean {
  const first = 18 * t + 3;
  return sameAt(corners, first, first + 6, 3) && sameAt(corners, first, first + 12, 3);
}

/** Whether a triangle abc and the next, acd, make a flat square: of equal sides, so that it has no dent. */
function isSquare(corners: Float32Array, t: number): boolean {
  const corner = (k: number): number => 18 * t + 6 * k;
  const joined =
    sameAt(corners, corner(0), corner(3), 6) && sameAt(corners, corner(2), corner(4), 6);
  if (!joined || !isFlat(corners, t) || !isFlat(corners, t + 1)) return false;
  const [a, b, c, d] = [0, 1, 2, 5].map((k) => corners.subarray(corner(k), corner(k) + 3));
  // Opposite sides are equal: a parallelogram.
  return [0, 1, 2].every((i) => Math.abs(b![i]! - a![i]! - (c![i]! - d![i]!)) < 1e-6);
}
