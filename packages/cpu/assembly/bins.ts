// Sorting what is drawn into tiles. It is taken in chunks of fixed size, whatever the number of
// threads: a tile's list holds it in order, so the frame does not depend on who does what.

import { arg } from './args';
import { Discs, Marks, Meshes, Shape, Size, Tiles } from './generated/words';
import { END } from './bands';
import { CORNER } from './triangles';

// @inline
function at(base: i32, index: i32): usize {
  return <usize>base + ((<usize>index) << 2);
}

// @inline
function clampTile(v: f32, size: i32, last: i32): i32 {
  return min(max(<i32>Mathf.floor(v), 0), size - 1) / last;
}

/** Counts, for one chunk, the things of each tile. */
export function countTiles(chunk: i32, args: usize, thread: i32): void {
  const tiles = arg(args, Tiles.TILES_X) * arg(args, Tiles.TILES_Y);
  const counts = at(arg(args, Tiles.COUNTS), chunk * tiles);
  memory.fill(counts, 0, (<usize>tiles) << 2);
  visit(chunk, args, counts, 0);
}

/**
 * Puts the things of one chunk into the lists of their tiles: discs and the bounds of copies whole, so
 * that drawing reads on, the others by number. What a copy is comes to stand together, once.
 */
export function fillTiles(chunk: i32, args: usize, thread: i32): void {
  const tiles = arg(args, Tiles.TILES_X) * arg(args, Tiles.TILES_Y);
  visit(chunk, args, at(arg(args, Tiles.COUNTS), chunk * tiles), <usize>arg(args, Tiles.LIST));
}

// @inline
function visit(chunk: i32, args: usize, counts: usize, list: usize): void {
  const shape = arg(args, Tiles.SHAPE);
  if (shape == Shape.DISCS) visitShapes(Shape.DISCS, chunk, args, counts, list);
  else if (shape == Shape.MARKS) visitShapes(Shape.MARKS, chunk, args, counts, list);
  else if (shape == Shape.COPIES) visitShapes(Shape.COPIES, chunk, args, counts, list);
  else visitItems(chunk, args, counts, list);
}

/** With a list: writes to the place that `counts` holds, and moves it on; without: counts. */
// @inline
function visitShapes(shape: i32, chunk: i32, args: usize, counts: usize, list: usize): void {
  const w = arg(args, Tiles.WIDTH);
  const h = arg(args, Tiles.HEIGHT);
  const tilesX = arg(args, Tiles.TILES_X);
  const discs = shape == Shape.DISCS;
  const marks = shape == Shape.MARKS;
  const sx = arg(args, discs ? Discs.SX : marks ? Marks.SX : Meshes.SX);
  const sy = arg(args, discs ? Discs.SY : marks ? Marks.SY : Meshes.SY);
  const ex = arg(args, discs ? Discs.SR : marks ? Marks.EX : Meshes.EX);
  const ey = discs ? ex : arg(args, marks ? Marks.EY : Meshes.EY);
  const last = min((chunk + 1) * Size.CHUNK, arg(args, Tiles.COUNT));
  for (let i = chunk * Size.CHUNK; i < last; i++) {
    const rx = load<f32>(at(ex, i));
    const ry = load<f32>(at(ey, i));
    const x = load<f32>(at(sx, i));
    const y = load<f32>(at(sy, i));
    // Written so that NaN counts as outside.
    if (!(rx > 0 && ry > 0 && x + rx > 0 && y + ry > 0 && x - rx < <f32>w && y - ry < <f32>h)) {
      continue;
    }
    if (list && shape == Shape.COPIES) {
      const whole = <usize>arg(args, Meshes.WHOLE) + <usize>i * Size.WHOLE_BYTES;
      for (let k = 0; k < 16; k++) {
        store<f32>(whole + ((<usize>k) << 2), load<f32>(at(arg(args, Meshes.MX + k), i)));
      }
    }
    const x0 = clampTile(x - rx, w, Size.TILE_W);
    const x1 = clampTile(x + rx, w, Size.TILE_W);
    const y0 = clampTile(y - ry, h, Size.TILE_H);
    const y1 = clampTile(y + ry, h, Size.TILE_H);
    for (let ty = y0; ty <= y1; ty++) {
      for (let tx = x0; tx <= x1; tx++) {
        const slot = counts + ((<usize>(ty * tilesX + tx)) << 2);
        const n = load<i32>(slot);
        if (list && marks) store<i32>(list + ((<usize>n) << 2), i);
        else if (list && !discs) {
          const entry = list + <usize>n * Size.COPY_BYTES;
          store<f32>(entry, x);
          store<f32>(entry, y, 4);
          store<f32>(entry, rx, 8);
          store<f32>(entry, ry, 12);
          store<f32>(entry, load<f32>(at(arg(args, Meshes.FRONT), i)), 16);
          store<i32>(entry, i, 20);
        } else if (list) {
          const entry = list + <usize>n * Size.DISC_BYTES;
          store<f32>(entry, x);
          store<f32>(entry, y, 4);
          store<f32>(entry, rx, 8);
          store<f32>(entry, load<f32>(at(arg(args, Discs.CA), i)), 12);
          store<f32>(entry, load<f32>(at(arg(args, Discs.CR), i)), 16);
          store<f32>(entry, load<f32>(at(arg(args, Discs.CG), i)), 20);
          store<f32>(entry, load<f32>(at(arg(args, Discs.CB), i)), 24);
          store<f32>(entry, load<f32>(at(arg(args, Discs.DEPTH), i)), 28);
        }
        store<i32>(slot, n + 1);
      }
    }
  }
}

function visitItems(chunk: i32, args: usize, counts: usize, list: usize): void {
  const w = arg(args, Tiles.WIDTH);
  const h = arg(args, Tiles.HEIGHT);
  const tilesX = arg(args, Tiles.TILES_X);
  const triangles = arg(args, Tiles.SHAPE) == Shape.TRIANGLES;
  const items = <usize>arg(args, Tiles.ITEMS);
  const room = arg(args, Tiles.ROOM);
  const first = chunk * room;
  const last = first + load<i32>(at(arg(args, Tiles.FILLED), chunk));
  for (let i = first; i < last; i++) {
    let left: f32, right: f32, top: f32, bottom: f32;
    if (triangles) {
      const a = items + <usize>i * Size.TRIANGLE_BYTES;
      left = min(load<f32>(a), min(load<f32>(a, CORNER), load<f32>(a, 2 * CORNER)));
      right = max(load<f32>(a), max(load<f32>(a, CORNER), load<f32>(a, 2 * CORNER)));
      top = min(load<f32>(a, 4), min(load<f32>(a, CORNER + 4), load<f32>(a, 2 * CORNER + 4)));
      bottom = max(load<f32>(a, 4), max(load<f32>(a, CORNER + 4), load<f32>(a, 2 * CORNER + 4)));
    } else {
      const a = items + <usize>i * Size.BAND_BYTES;
      const ax = load<f32>(a);
      const ay = load<f32>(a, 4);
      const bx = load<f32>(a, END);
      const by = load<f32>(a, END + 4);
      const rx = max(abs<f32>(load<f32>(a, 28)), abs<f32>(load<f32>(a, END + 28)));
      const ry = max(abs<f32>(load<f32>(a, 32)), abs<f32>(load<f32>(a, END + 32)));
      left = min(ax, bx) - rx;
      right = max(ax, bx) + rx;
      top = min(ay, by) - ry;
      bottom = max(ay, by) + ry;
    }
    if (!(right > 0 && bottom > 0 && left < <f32>w && top < <f32>h)) continue;
    const x0 = clampTile(left, w, Size.TILE_W);
    const x1 = clampTile(right, w, Size.TILE_W);
    const y0 = clampTile(top, h, Size.TILE_H);
    const y1 = clampTile(bottom, h, Size.TILE_H);
    for (let ty = y0; ty <= y1; ty++) {
      for (let tx = x0; tx <= x1; tx++) {
        const slot = counts + ((<usize>(ty * tilesX + tx)) << 2);
        const n = load<i32>(slot);
        if (list) store<i32>(list + ((<usize>n) << 2), i);
        store<i32>(slot, n + 1);
      }
    }
  }
}

/** Turns counts into places: tile by tile, in a tile chunk by chunk. Writes the total. */
export function placeTiles(task: i32, args: usize, thread: i32): void {
  const tiles = arg(args, Tiles.TILES_X) * arg(args, Tiles.TILES_Y);
  const chunks = arg(args, Tiles.CHUNKS);
  const counts = arg(args, Tiles.COUNTS);
  const starts = arg(args, Tiles.STARTS);
  let sum = 0;
  for (let tile = 0; tile < tiles; tile++) {
    store<i32>(at(starts, tile), sum);
    for (let chunk = 0; chunk < chunks; chunk++) {
      const place = at(counts, chunk * tiles + tile);
      const n = load<i32>(place);
      store<i32>(place, sum);
      sum += n;
    }
  }
  store<i32>(at(starts, tiles), sum);
  store<i32>(args + ((<usize>Tiles.TOTAL) << 2), sum);
}

/** How many particles are alive: age from 0 to below life. Gives its count to word `task`. */
export function countAlive(chunk: i32, args: usize, thread: i32): void {
  const age = arg(args, 1);
  const life = arg(args, 2);
  const last = min((chunk + 1) * Size.CHUNK, arg(args, 0));
  let n = 0;
  for (let i = chunk * Size.CHUNK; i < last; i++) {
    const a = load<f32>(at(age, i));
    n += i32(a >= 0 && a < load<f32>(at(life, i)));
  }
  store<i32>(at(arg(args, 3), chunk), n);
}
