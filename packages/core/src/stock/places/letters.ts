import { memo } from '../memo';
import type { Mesh, Outline } from '../types';
import { segmentsOf } from './along';
import type { Field } from './distanceField';

/** By segment of an outline of words: the number of its letter. */
export function lettersOfSegments(outline: Outline): Float32Array | null {
  const { words } = outline;
  if (!words) return null;
  return memo(outline, 'letters of segments', () => {
    const { starts, count } = segmentsOf(outline);
    const letters = new Float32Array(count);
    starts.forEach(({ first, count: own }, curve) => {
      letters.fill(words.letterOf[curve]!, first, first + own);
    });
    return letters;
  });
}

/** By triangle of a mesh of words: the number of its letter. */
export function lettersOfFaces(mesh: Mesh): Float32Array | null {
  const { words } = mesh;
  return words ? memo(mesh, 'letters of faces', () => Float32Array.from(words.letterOf)) : null;
}

/** By vertex of a mesh of words. */
export function lettersOfVertices(mesh: Mesh): Float32Array | null {
  const { words, triangles, positions } = mesh;
  if (!words) return null;
  return memo(mesh, 'letters of vertices', () => {
    const letters = new Float32Array(positions.length / 3);
    triangles.forEach((v, i) => (letters[v] = words.letterOf[Math.floor(i / 3)]!));
    return letters;
  });
}

/** By cell of the inside of a mesh of words: the letter whose box it lies in, the last one where boxes overlap. */
export function lettersOfCells(mesh: Mesh, field: Field): Float32Array | null {
  if (!mesh.words) return null;
  return memo(field, 'letters of cells', () => {
    const letters = new Float32Array(field.values.length);
    for (const [letter, [low, high]] of letterBoxes(mesh).entries()) {
      const first = field.origin.map((o, i) => Math.max(0, Math.floor((low[i]! - o) / field.step)));
      const last = field.origin.map((o, i) =>
        Math.min(field.size[i]! - 1, Math.ceil((high[i]! - o) / field.step)),
      );
      const [nx, ny] = field.size;
      for (let z = first[2]!; z <= last[2]!; z++) {
        for (let y = first[1]!; y <= last[1]!; y++) {
          const row = nx * (y + ny * z);
          letters.fill(letter, row + first[0]!, row + last[0]! + 1);
        }
      }
    }
    return letters;
  });
}

/** The box of each letter, from low to high corner. */
function letterBoxes({ words, triangles, positions }: Mesh): [number[], number[]][] {
  const boxes = Array.from({ length: words!.count }, (): [number[], number[]] => [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ]);
  triangles.forEach((v, i) => {
    const [low, high] = boxes[words!.letterOf[Math.floor(i / 3)]!]!;
    for (let axis = 0; axis < 3; axis++) {
      low[axis] = Math.min(low[axis]!, positions[3 * v + axis]!);
      high[axis] = Math.max(high[axis]!, positions[3 * v + axis]!);
    }
  });
  return boxes;
}
