import { z } from 'zod';
import { fitted } from './fit';
import { made, MADE } from './made';
import { outlineOfPath } from './outlinePath';

/** What pieces are made from besides numbers. Places are in metres, right-handed, y up. */
export const STOCK_TYPES = ['mesh', 'cloud', 'picture', 'outline', 'table'] as const;
export type StockType = (typeof STOCK_TYPES)[number];

export interface Mesh {
  type: 'mesh';
  /** x, y, z of each vertex in turn. */
  positions: Float32Array;
  /** Three numbers of vertices a triangle, counter-clockwise seen from outside. */
  triangles: Uint32Array;
  /** Linear red, green, blue of each vertex, 0 to 1. */
  colours?: Float32Array;
}

export interface Cloud {
  type: 'cloud';
  positions: Float32Array;
  colours?: Float32Array;
}

export interface Picture {
  type: 'picture';
  width: number;
  height: number;
  /** sRGB and alpha, rows from the top. */
  pixels: Uint8Array | Uint8ClampedArray;
}

export interface Curve {
  /** x, y, z of each point in turn; straight between them. */
  points: Float32Array;
  closed: boolean;
}

export interface Outline {
  type: 'outline';
  curves: Curve[];
}

/** Colours by colours, on a cube. */
export interface LookupTable {
  type: 'table';
  /** Entries along each side. */
  size: number;
  /** Red, green, blue of each entry in turn; red runs fastest, blue slowest. */
  values: Float32Array;
  /** Colours of the first and the last entry. */
  low: [number, number, number];
  high: [number, number, number];
}

export type StockData = Mesh | Cloud | Picture | Outline | LookupTable;

const hash = z.string().regex(/^[0-9a-f]{16,64}$/, 'a hash is written in hexadecimal');

/** A piece's entry for a thing of the stock: made by code, drawn in the piece, or from a file. */
export const stockEntrySchema = z.strictObject({
  id: z.string().regex(/^[A-Za-z0-9_-]{1,64}$/),
  name: z.string().min(1).max(120),
  type: z.enum(STOCK_TYPES),
  source: z.union([
    z.strictObject({ made: z.enum(MADE) }),
    /** SVG path data, in metres, y down. */
    z.strictObject({ path: z.string().min(1).max(200_000) }),
    /** A file of this name in the folder `stock` beside the piece; SHA-256 of what is in it. */
    z.strictObject({
      file: z.string().min(1).max(200),
      hash,
      up: z.enum(['y', 'z']).optional(),
      unit: z.number().min(1e-6).max(1e6).optional(),
      size: z.number().min(1e-4).max(1e4).optional(),
    }),
  ]),
});
export type StockEntry = z.infer<typeof stockEntrySchema>;

/** What has been read from files, by hash. */
export type StockFiles = ReadonlyMap<string, StockData>;

const drawn = new Map<string, Outline>();

/** The data of an entry, the same object each time; undefined where its file is not at hand. */
export function stockData(entry: StockEntry, files: StockFiles): StockData | undefined {
  const { source } = entry;
  if ('made' in source) return made(source.made);
  if ('hash' in source) {
    const data = files.get(source.hash);
    return data && fitted(data, source);
  }
  let outline = drawn.get(source.path);
  if (!outline) {
    outline = outlineOfPath(source.path);
    // The pen makes a new path at every stroke: what was drawn before is let go.
    if (drawn.size > 32) drawn.clear();
    drawn.set(source.path, outline);
  }
  return outline;
}

const memos = new WeakMap<object, Map<string, unknown>>();

/** What `make` gives for a thing of the stock, worked out once for each key. */
export function memo<T>(item: object, key: string, make: () => T): T {
  let known = memos.get(item);
  if (!known) memos.set(item, (known = new Map<string, unknown>()));
  if (!known.has(key)) known.set(key, make());
  return known.get(key) as T;
}

/** Whether `memo` has something for the key already. */
export function remembered(item: object, key: string): boolean {
  return memos.get(item)?.has(key) ?? false;
}

let counter = 0;
/** A number for each thing of the stock, to name buffers by. */
export function serialOf(item: object): number {
  return memo(item, 'serial', () => ++counter);
}

/** The least box around points: [low, high]. */
export function boundsOf(positions: Float32Array): [number[], number[]] {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i++) {
    const axis = i % 3;
    low[axis] = Math.min(low[axis]!, positions[i]!);
    high[axis] = Math.max(high[axis]!, positions[i]!);
  }
  return positions.length > 0
    ? [low, high]
    : [
        [0, 0, 0],
        [0, 0, 0],
      ];
}

/** All points of a thing of the stock that has points. */
export function pointsOf(data: StockData): Float32Array {
  if (data.type === 'picture' || data.type === 'table') return new Float32Array(0);
  if (data.type !== 'outline') return data.positions;
  const all = new Float32Array(data.curves.reduce((n, c) => n + c.points.length, 0));
  data.curves.reduce((at, { points }) => (all.set(points, at), at + points.length), 0);
  return all;
}
