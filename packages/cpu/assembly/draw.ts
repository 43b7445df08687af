import { arg } from './args';
import { Shape, Size, Tiles } from './generated/words';
import { drawCopies } from './copies';
import { drawDiscs } from './discs';
import { drawMarks } from './marks';
import { drawTriangles } from './triangles';

/** Draws what is in the list of one tile. */
export function drawTile(tile: i32, args: usize, thread: i32): void {
  const tilesX = arg(args, Tiles.TILES_X);
  const x = (tile % tilesX) * Size.TILE_W;
  const y = (tile / tilesX) * Size.TILE_H;
  drawList(args, tile, x, y, thread);
}

/** How many things a tile's list has. */
// @inline
export function inTile(args: usize, tile: i32): i32 {
  const starts = <usize>arg(args, Tiles.STARTS) + ((<usize>tile) << 2);
  return load<i32>(starts, 4) - load<i32>(starts);
}

/** The same into planes in which the tile begins at (x, y). */
export function drawList(args: usize, tile: i32, x: i32, y: i32, thread: i32): void {
  const n = inTile(args, tile);
  if (n == 0) return;
  const begin = load<i32>(<usize>arg(args, Tiles.STARTS) + ((<usize>tile) << 2));
  const shape = arg(args, Tiles.SHAPE);
  if (shape == Shape.DISCS) drawDiscs(args, begin, n, x, y, thread);
  else if (shape == Shape.MARKS) drawMarks(args, begin, n, x, y, thread);
  else if (shape == Shape.COPIES) drawCopies(args, begin, n, x, y, thread);
  else drawTriangles(args, begin, n, x, y, thread);
}
