import { MeshoptSimplifier } from 'meshoptimizer/simplifier';
import { memo } from '../memo';
import type { CoarserForm, Mesh } from '../types';

/** Each form has at most this part of the triangles of the one before. */
const PART = 0.35;
/** No form has fewer triangles than this. */
const FEWEST = 24;
/** Most forms beside the mesh itself. */
const MOST = 7;

let isReady = false;

/**
 * To be waited for before a piece is compiled: engines do when they are made. Before, meshes have no coarser
 * forms, and are drawn as fine as they are.
 */
export const simplifierReady: Promise<void> = MeshoptSimplifier.ready.then(() => {
  isReady = true;
});

/** Coarser forms of a mesh, on its own vertices: those that it came with, or else made now. */
export function coarserOf(mesh: Mesh): CoarserForm[] {
  if (mesh.coarser) return mesh.coarser;
  return isReady ? memo(mesh, 'coarser', () => simplified(mesh)) : [];
}

function simplified({ positions, triangles }: Mesh): CoarserForm[] {
  const forms: CoarserForm[] = [];
  let last = { triangles, error: 0 };
  while (forms.length < MOST && last.triangles.length * PART >= 3 * FEWEST) {
    const wanted = 3 * Math.ceil((last.triangles.length / 3) * PART);
    const next = form(last.triangles, positions, wanted);
    // Nothing is left of some meshes, as of one that is all in one place.
    if (next.triangles.length < 3 || next.triangles.length > last.triangles.length * 0.7) break;
    // Each is made from the one before: what it lies off the mesh adds up.
    last = { ...next, error: last.error + next.error };
    forms.push(last);
  }
  return forms;
}

/** With about so many corners; meshes in many pieces are brought together where edges alone do not do. */
function form(triangles: Uint32Array, positions: Float32Array, wanted: number): CoarserForm {
  const [found, error] = MeshoptSimplifier.simplify(triangles, positions, 3, wanted, 1);
  if (found.length <= 1.5 * wanted) return { triangles: found, error };
  const sloppy = MeshoptSimplifier.simplifySloppy(triangles, positions, 3, null, wanted, 1);
  return { triangles: sloppy[0], error: sloppy[1] };
}
