/**
 * The block at the start of shared memory through which threads are given work, in 32-bit words.
 * Threads sleep on GENERATION; a job is a number of tasks that they take in turn.
 */
export const GENERATION = 0;
export const JOB = 1;
export const NEXT = 2;
export const TASKS = 3;
export const DONE = 4;
export const FAILED = 5;
/** Which module or function, then its arguments. */
export const TARGET = 6;
export const ARG = 7;
/** Counts what helpers have done of the job: one that stops counting is dead. */
export const BEATS = 16;

/** Bytes kept for the block; buffers begin behind it. */
export const CONTROL_BYTES = 1024;

/** Every thread loads the module whose bytes stand at ARG (address, length) as number TARGET. */
export const LOAD = 1;
/** A kernel's lanes: ARG holds begin, end, params, lanes a task. */
export const KERNEL = 2;
/** A function of the rasteriser: ARG holds the address of its arguments. */
export const RASTER = 3;
export const QUIT = 4;

/** Functions of the rasteriser by number. */
export const RASTER_FUNCTIONS = [
  'countAlive',
  'countTiles',
  'fillTiles',
  'placeTiles',
  'drawTile',
  'halve',
  'addDoubled',
  'shrink',
  'addPlanes',
  'sortCells',
  'countMeshes',
  'fillMeshes',
  'drawSolids',
  'fillTrails',
  'rankLinks',
  'keepLinks',
  'limitLinks',
  'fillLinks',
  'fillFaces',
  'leaveInMedium',
] as const;
export type RasterFunction = (typeof RASTER_FUNCTIONS)[number];
