// Arguments of a draw, in words. The host writes them; see src/draws.ts.

@inline export function arg(args: usize, word: i32): i32 {
  return load<i32>(args + (<usize>word << 2));
}
@inline export function argF(args: usize, word: i32): f32 {
  return load<f32>(args + (<usize>word << 2));
}

// The frame and its tiles, the same for everything that is drawn.
export const COUNT = 0;
export const WIDTH = 1;
export const HEIGHT = 2;
export const STRIDE = 3;
export const PLANE_R = 4;
export const PLANE_G = 5;
export const PLANE_B = 6;
export const COUNTS = 7;
export const STARTS = 8;
export const LIST = 9;
export const ORDER = 10;
export const SPARE = 11;
export const SCRATCH = 12;
export const TILES_X = 13;
export const TILES_Y = 14;
export const MODE = 15;
export const TOTAL = 16;
export const CHUNKS = 17;
/** Which of the SHAPES below. */
export const SHAPE = 18;
/** Metres to the nearest opaque thing by pixel; 0: there is none. */
export const NEAREST = 19;
/** 1 / metres within which light fades in front of opaque things; 0: it ends at once. */
export const SOFT = 20;
/** 1: depths of triangles are straight as 1 / metres over the screen (perspective), 0: as metres. */
export const INVERSE = 21;
/** Triangles and bands: where they stand, how many a chunk has room for, how many it holds. */
export const ITEMS = 22;
export const ROOM = 23;
export const FILLED = 68;

// Arrays of discs and marks, by particle.
export const SX = 24;
export const SY = 25;
/** Radius of a disc, half the width of a mark, in pixels; 0: not drawn. */
export const EX = 26;
export const EY = 27;
export const CR = 28;
export const CG = 29;
export const CB = 30;
export const CA = 31;
export const DEPTH = 32;
/** The four numbers from pixels to the mark's own square. */
export const M0 = 33;
export const M1 = 34;
export const M2 = 35;
export const M3 = 36;
export const EDGES = 37;
export const BLUR = 38;
export const PICK = 39;

// One draw's own numbers.
export const EDGE = 40;
export const PATTERN = 41;
export const PARAM = 42;
export const BLADES = 43;
/** How much lower the opening is than wide. */
export const ASPECT = 44;
export const PICTURE = 45;
export const PICTURE_W = 46;
export const PICTURE_H = 47;
export const FRAMES = 48;
/** How much narrower it is than high. */
export const ASPECT_U = 49;
/** Up to nine unit vectors towards the flats of the aperture, each over its distance. */
export const FLATS = 50;

export const DISCS: i32 = 0;
export const MARKS: i32 = 1;
export const TRIANGLES: i32 = 2;
export const BANDS: i32 = 3;
