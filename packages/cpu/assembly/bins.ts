// Sorting discs into tiles. Particles are taken in chunks of fixed size, whatever the number of
// threads: a tile's list holds them in order of their slots, so the frame does not depend on who
// does what.

/** Width and height of a tile in pixels; the width is a multiple of 4. */
export const TILE_W: i32 = 64;
export const TILE_H: i32 = 32;
const CHUNK: i32 = 8192;

// Arguments of a draw, in words. The host writes them; see src/rasteriser.ts.
@inline export function arg(args: usize, word: i32): i32 {
  return load<i32>(args + (<usize>word << 2));
}
@inline export function argF(args: usize, word: i32): f32 {
  return load<f32>(args + (<usize>word << 2));
}

export const COUNT = 0;
export const SX = 1;
export const SY = 2;
export const SR = 3;
export const CR = 4;
export const CG = 5;
export const CB = 6;
export const CA = 7;
export const DEPTH = 8;
export const WIDTH = 9;
export const HEIGHT = 10;
export const STRIDE = 11;
export const PLANE_R = 12;
export const PLANE_G = 13;
export const PLANE_B = 14;
export const COUNTS = 15;
export const STARTS = 16;
export const LIST = 17;
export const SPARE = 18;
export const TILES_X = 19;
export const TILES_Y = 20;
export const MODE = 21;
export const EDGE = 22;
export const SCRATCH = 23;
export const TOTAL = 24;
export const CHUNKS = 25;
export const ORDER = 26;

@inline function at(base: i32, index: i32): usize {
  return <usize>base + (<usize>index << 2);
}

@inline function clampTile(v: f32, size: i32, last: i32): i32 {
  return min(max(<i32>Mathf.floor(v), 0), size - 1) / last;
}

@inline function outside(x: f32, y: f32, r: f32, w: i32, h: i32): bool {
  // Written so that NaN counts as outside.
  return !(r > 0 && x + r > 0 && y + r > 0 && x - r < <f32>w && y - r < <f32>h);
}

/** Counts, for one chunk, the discs of each tile. */
export function countTiles(chunk: i32, args: usize, thread: i32): void {
  const tilesX = arg(args, TILES_X);
  const tiles = tilesX * arg(args, TILES_Y);
  const counts = at(arg(args, COUNTS), chunk * tiles);
  memory.fill(counts, 0, <usize>tiles << 2);
  visit(chunk, args, counts, 0);
}

/** Bytes of a list entry: x, y, radius, opacity, red, green, blue, depth of one disc. */
export const ENTRY: usize = 32;

/** Puts the discs of one chunk into the lists of their tiles, whole, so that drawing reads on. */
export function fillTiles(chunk: i32, args: usize, thread: i32): void {
  const tiles = arg(args, TILES_X) * arg(args, TILES_Y);
  visit(chunk, args, at(arg(args, COUNTS), chunk * tiles), <usize>arg(args, LIST));
}

/** With a list: writes to the place that `counts` holds, and moves it on; without: counts. */
@inline function visit(chunk: i32, args: usize, counts: usize, list: usize): void {
  const w = arg(args, WIDTH);
  const h = arg(args, HEIGHT);
  const tilesX = arg(args, TILES_X);
  const sx = arg(args, SX);
  const sy = arg(args, SY);
  const sr = arg(args, SR);
  const last = min((chunk + 1) * CHUNK, arg(args, COUNT));
  for (let i = chunk * CHUNK; i < last; i++) {
    const r = load<f32>(at(sr, i));
    const x = load<f32>(at(sx, i));
    const y = load<f32>(at(sy, i));
    if (outside(x, y, r, w, h)) continue;
    const x0 = clampTile(x - r, w, TILE_W);
    const x1 = clampTile(x + r, w, TILE_W);
    const y0 = clampTile(y - r, h, TILE_H);
    const y1 = clampTile(y + r, h, TILE_H);
    for (let ty = y0; ty <= y1; ty++) {
      for (let tx = x0; tx <= x1; tx++) {
        const slot = counts + (<usize>(ty * tilesX + tx) << 2);
        const n = load<i32>(slot);
        if (list) {
          const entry = list + <usize>n * ENTRY;
          store<f32>(entry, x);
          store<f32>(entry, y, 4);
          store<f32>(entry, r, 8);
          store<f32>(entry, load<f32>(at(arg(args, CA), i)), 12);
          store<f32>(entry, load<f32>(at(arg(args, CR), i)), 16);
          store<f32>(entry, load<f32>(at(arg(args, CG), i)), 20);
          store<f32>(entry, load<f32>(at(arg(args, CB), i)), 24);
          store<f32>(entry, load<f32>(at(arg(args, DEPTH), i)), 28);
        }
        store<i32>(slot, n + 1);
      }
    }
  }
}

/** Turns counts into places: tile by tile, in a tile chunk by chunk. Writes the total. */
export function placeTiles(task: i32, args: usize, thread: i32): void {
  const tiles = arg(args, TILES_X) * arg(args, TILES_Y);
  const chunks = arg(args, CHUNKS);
  const counts = arg(args, COUNTS);
  const starts = arg(args, STARTS);
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
  store<i32>(args + (<usize>TOTAL << 2), sum);
}

/** How many particles are alive: age from 0 to below life. Gives its count to word `task`. */
export function countAlive(chunk: i32, args: usize, thread: i32): void {
  const age = arg(args, 1);
  const life = arg(args, 2);
  const last = min((chunk + 1) * CHUNK, arg(args, 0));
  let n = 0;
  for (let i = chunk * CHUNK; i < last; i++) {
    const a = load<f32>(at(age, i));
    n += i32(a >= 0 && a < load<f32>(at(life, i)));
  }
  store<i32>(at(arg(args, 3), chunk), n);
}
