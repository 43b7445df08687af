// Forms of a mesh, from fine to coarse, and which of them a copy is drawn in.

import { arg, argF } from './args';
import { Meshes, Pixels, Size } from './generated/words';

/** Larger copies of many triangles are brought to the screen once, and not once for each tile. */
const HEAVY_PIXELS: f32 = 64;

/** First triangle of a form of the mesh. */
// @inline
export function levelFirst(args: usize, level: i32): i32 {
  return arg(args, Meshes.LEVELS + 3 * level);
}

/** How many it has. */
// @inline
export function levelCount(args: usize, level: i32): i32 {
  return arg(args, Meshes.LEVELS + 3 * level + 1);
}

/** The coarsest form that cannot be told from the finest at the size that the copy has. */
export function levelOf(args: usize, size: f32): i32 {
  let level = arg(args, Meshes.LEVEL_COUNT) - 1;
  while (level > 0 && argF(args, Meshes.LEVELS + 3 * level + 2) * size > Pixels.OFF) level -= 1;
  return level;
}

/** Whether a copy is brought to the screen by fillMeshes. */
export function isHeavy(args: usize, size: f32): bool {
  return size > HEAVY_PIXELS && levelCount(args, levelOf(args, size)) > Size.HEAVY_TRIANGLES;
}
