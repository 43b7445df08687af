import { arg } from './args';
import { Shape, Size, Tiles } from './generated/words';
import { drawDiscs } from './discs';
import { drawMarks } from './marks';
import { drawTriangles } from './triangles';

/** Draws what is in the list of one tile. */
export function drawTile(tile: i32, args: usize, thread: i32): void {
  const starts = <usize>arg(args, Tiles.STARTS) + ((<usize>tile) << 2);
  const begin = load<i32>(starts);
  const n = load<i32>(starts, 4) - begin;
  if (n == 0) return;
  const tilesX = arg(args, Tiles.TILES_X);
  const x = (tile % tilesX) * Size.TILE_W;
  const y = (tile / tilesX) * Size.TILE_H;
  const shape = arg(args, Tiles.SHAPE);
  if (shape == Shape.DISCS) drawDiscs(args, begin, n, x, y, thread);
  else if (shape == Shape.MARKS) drawMarks(args, begin, n, x, y, thread);
  else drawTriangles(args, begin, n, x, y, thread);
}
