import {
  DRAW_TABLES,
  FACE_SIZE,
  FACES,
  layout,
  MODES,
  OFF_PIXELS,
  POINT_PIXELS,
} from '@vast-swarm/core/plan';
import { PATTERNS } from '@vast-swarm/core/kinds';

/**
 * Words of the rasteriser's arguments, and sizes that it and its callers agree on. What stands here and
 * in the core's draw tables becomes assembly/generated/words.ts (scripts/assembly-text.ts).
 */

/** Of everything that is sorted into tiles: the frame, its tiles, what is drawn and how. */
const TILES = {
  count: 1,
  width: 1,
  height: 1,
  stride: 1,
  plane: 3,
  mode: 1,
  shape: 1,
  // Lists of the tiles: how many there are by chunk, where they begin, what is in them, in which order.
  tilesX: 1,
  tilesY: 1,
  chunks: 1,
  counts: 1,
  starts: 1,
  list: 1,
  order: 1,
  spare: 1,
  scratch: 1,
  total: 1,
  // Metres to the nearest opaque thing by pixel (0: there is none), and 1 / metres within which light
  // fades before it (0: it ends at once).
  nearest: 1,
  soft: 1,
  // 1: depths of triangles are straight as 1 / metres over the screen (perspective), 0: as metres.
  inverse: 1,
  // Triangles and bands: where they stand, how many a chunk has room for, how many it holds.
  items: 1,
  room: 1,
  filled: 1,
  // Pixels of the planes to a pixel of what is drawn, and size of a tile in pixels of the planes.
  scale: 1,
  spanW: 1,
  spanH: 1,
} as const;

/** Of what fills rooms with triangles and bands: particles, and how many in a chunk. */
const FILL = {
  count: 1,
  items: 1,
  filled: 1,
  per: 1,
  room: 1,
  width: 1,
  height: 1,
  perspective: 1,
  scratch: 1,
} as const;

const { discs, marks, meshes, trails, links } = DRAW_TABLES;

export const WORDS = {
  tiles: layout(TILES),
  discs: layout(TILES, discs.outputs, { edge: 1 }),
  marks: layout(TILES, marks.outputs, marks.words),
  meshes: layout(TILES, { per: 1, perspective: 1, whole: 1 }, meshes.outputs, meshes.words),
  trails: layout(FILL, trails.outputs, trails.words),
  // Places in the order of the grid are looked through four at once.
  links: layout(FILL, links.outputs, links.words, ['nearX', 'nearY', 'nearZ']),
  // What particles leave in a medium: eight numbers of each, summed in six planes of its cells.
  medium: layout({
    count: 1,
    columns: 1,
    lines: 1,
    stride: 1,
    band: 1,
    wraps: 1,
    fresh: 1,
    radius: 1,
    gain: 1,
    from: 8,
    to: 6,
  }),
  solids: layout({
    width: 1,
    height: 1,
    stride: 1,
    plane: 3,
    nearest: 1,
    tilesX: 1,
    // Where each thread has its fine planes, bytes to the next thread's, and samples along a pixel.
    fine: 1,
    fineBytes: 1,
    samples: 1,
    // Where the words of each draw stand, and how many there are.
    draws: 1,
    drawCount: 1,
  }),
};

/** Sorts of entries in the lists of tiles. */
export const SHAPES = ['discs', 'marks', 'triangles', 'bands', 'copies'] as const;

export const SIZES = {
  // A tile in pixels; the width is a multiple of 4.
  tileW: 64,
  tileH: 32,
  // Things in a chunk of the sort into tiles, and bytes of scratch for each thread.
  chunk: 8192,
  scratchBytes: 8192,
  // Bytes of a disc and of a copy's bounds in a list, of a whole copy, of a triangle and of a band.
  wholeBytes: 64,
  discBytes: 32,
  copyBytes: 24,
  triangleBytes: 88,
  bandBytes: 96,
  // Words of a draw's arguments, and bytes of a face of a mesh.
  args: 128,
  faceBytes: 4 * FACE_SIZE,
  // Opaque copies of more triangles go to the screen once where they are large, see assembly/levels.ts.
  heavyTriangles: 64,
  // Room between rows (samples) and planes of a tile's fine planes, so that they do not share cache lines.
  rowGap: 16,
  planeGapBytes: 1216,
} as const;

/** Numbers that stand for names. */
export const NUMBERS = { mode: MODES, shape: SHAPES, pattern: PATTERNS, face: FACES };

/** Numbers of single precision, in pixels: see the core's forms.ts. */
export const PIXELS = { point: POINT_PIXELS, off: OFF_PIXELS };
