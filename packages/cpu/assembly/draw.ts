import { arg, DISCS, MARKS, SHAPE, STARTS, TILES_X } from './args';
import { TILE_H, TILE_W } from './bins';
import { drawDiscs } from './discs';
import { drawMarks } from './marks';
import { drawTriangles } from './triangles';

/** Draws what is in the list of one tile. */
export function drawTile(tile: i32, args: usize, thread: i32): void {
  const starts = <usize>arg(args, STARTS) + (<usize>tile << 2);
  const begin = load<i32>(starts);
  const n = load<i32>(starts, 4) - begin;
  if (n == 0) return;
  const tilesX = arg(args, TILES_X);
  const x = (tile % tilesX) * TILE_W;
  const y = (tile / tilesX) * TILE_H;
  const shape = arg(args, SHAPE);
  if (shape == DISCS) drawDiscs(args, begin, n, x, y, thread);
  else if (shape == MARKS) drawMarks(args, begin, n, x, y, thread);
  else drawTriangles(args, begin, n, x, y, thread);
}
