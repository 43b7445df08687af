import type { Cloud, Mesh } from '../types';

/**
 * Joins vertices that stand at one place with one colour; numbers of faces go with them. Coordinates belong to
 * corners and stay as they are, so that no seam of a picture is one of the mesh.
 */
export function weld(mesh: Mesh): Mesh {
  const { positions, triangles, colours, coordinates } = mesh;
  const names = new Map<string, number>();
  const keep: number[] = [];
  const to = new Uint32Array(positions.length / 3);
  for (let v = 0; v < to.length; v++) {
    const part = (list: Float32Array): string =>
      `${list[3 * v]!},${list[3 * v + 1]!},${list[3 * v + 2]!}`;
    const key = colours ? `${part(positions)};${part(colours)}` : part(positions);
    let n = names.get(key);
    if (n === undefined) {
      names.set(key, (n = keep.length));
      keep.push(v);
    }
    to[v] = n;
  }
  const pick = (list: Float32Array): Float32Array => {
    const out = new Float32Array(3 * keep.length);
    keep.forEach((v, i) => {
      out.set(list.subarray(3 * v, 3 * v + 3), 3 * i);
    });
    return out;
  };
  return {
    type: 'mesh',
    positions: pick(positions),
    triangles: triangles.map((v) => to[v]!),
    ...(colours ? { colours: pick(colours) } : {}),
    ...(coordinates ? { coordinates } : {}),
  };
}

export interface Piece3d {
  positions: ArrayLike<number>;
  /** Null: the vertices in turn. */
  index: ArrayLike<number> | null;
  /** Linear light. */
  colours: ArrayLike<number> | null;
  /** Of each vertex, from the left and the top. */
  coordinates: ArrayLike<number> | null;
}

/** Several pieces as one mesh; those without faces as one cloud. */
export function joined(pieces: readonly Piece3d[], faces: boolean): Mesh | Cloud {
  const vertices = pieces.reduce((n, p) => n + p.positions.length, 0);
  const positions = new Float32Array(vertices);
  const coloured = pieces.some((p) => p.colours);
  const colours = new Float32Array(coloured ? vertices : 0).fill(1);
  const triangles: number[] = [];
  const mapped = faces && pieces.some((p) => p.coordinates);
  const coordinates: number[] = [];
  let at = 0;
  for (const piece of pieces) {
    positions.set(piece.positions, at);
    if (piece.colours) colours.set(piece.colours, at);
    const first = at / 3;
    const count = piece.index?.length ?? piece.positions.length / 3;
    if (faces) {
      for (let i = 0; i < count - (count % 3); i++) {
        const vertex = piece.index?.[i] ?? i;
        triangles.push(first + vertex);
        if (!mapped) continue;
        for (const k of [0, 1]) coordinates.push(piece.coordinates?.[2 * vertex + k] ?? 0.5);
      }
    }
    at += piece.positions.length;
  }
  const colour = coloured ? { colours } : {};
  if (!faces) return { type: 'cloud', positions, ...colour };
  const places = mapped ? { coordinates: Float32Array.from(coordinates) } : {};
  const all = { positions, triangles: Uint32Array.from(triangles), ...colour, ...places };
  return weld({ type: 'mesh', ...all });
}
