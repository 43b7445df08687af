/** Types of things that pieces are made from. Places are in metres, right-handed, y up. */
export const STOCK_TYPES = [
  'mesh',
  'cloud',
  'picture',
  'outline',
  'table',
  'sound',
  'clip',
  'motion',
  'font',
] as const;
export type StockType = (typeof STOCK_TYPES)[number];

/** Letters of words that were typed, beside their lines or triangles. */
export interface Lettered {
  /** How many letters there are. */
  count: number;
  /** By curve of an outline, or triangle of a mesh: the number of its letter, from 0 in the order of reading. */
  letterOf: Uint32Array;
  /** Letters that the font lacks; they are left out. */
  lacks: readonly string[];
}

export interface Mesh {
  type: 'mesh';
  /** x, y, z of each vertex in turn. */
  positions: Float32Array;
  /** Three numbers of vertices a triangle, counter-clockwise seen from outside. */
  triangles: Uint32Array;
  /** Linear red, green, blue of each vertex, 0 to 1. */
  colours?: Float32Array;
  /**
   * Where each corner of each triangle stands in a picture that is laid round the mesh: two numbers a corner, from the
   * left and the top, 0 to 1 once.
   */
  coordinates?: Float32Array;
  /** Coarser forms of it on the same vertices, from fine to coarse. */
  coarser?: CoarserForm[];
  words?: Lettered;
}

export interface CoarserForm {
  triangles: Uint32Array;
  /** How far it lies off the mesh, as a part of the mesh's longest side. */
  error: number;
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

/** Pictures of one size, one after the other. */
export interface Clip {
  type: 'clip';
  width: number;
  height: number;
  /** Seconds at which each picture begins, rising from 0; last, the second at which the last one ends. */
  times: Float64Array;
  /** One of them by its number: at once where it is at hand, else as soon as it is. */
  picture: (index: number) => Picture | Promise<Picture>;
  /** The sound in the same file. */
  sound?: Sound;
  /** Why the sound in it cannot be read, where that is so. */
  unheard?: string;
  /** The file that it is read from: functions do not travel between workers. */
  file?: { name: string; bytes: Uint8Array };
}

/** A joint of somebody, and the one that it hangs on: its number, or -1. */
export interface Joint {
  name: string;
  parent: number;
}

export interface Performer {
  name: string;
  joints: readonly Joint[];
  /** x, y, z of each joint at the first time, then of each at the second, and so on. */
  places: Float32Array;
}

/** How the joints of some performers move. */
export interface Motion {
  type: 'motion';
  /** Seconds at which places are known, rising from 0; straight between them. */
  times: Float64Array;
  performers: readonly Performer[];
}

/** How places of births are chosen in a picture. */
export interface Choosing {
  by: 'brightness' | 'alpha';
  limit: number;
  density: 'even' | 'value';
}

/** A measure of pictures, as data, so that others can be asked for it. */
export type Look =
  /** Of one picture: its pixels as words. */
  | { find: 'pixels' }
  /** Of one: what particles show of it, linear light and opacity in turn. */
  | { find: 'cell' }
  /** Of one: places of births. */
  | { find: 'spots'; choosing: Choosing }
  /** Of two: motion from one to the other in cells, so many along the longer side; all x, then all y. */
  | { find: 'motion'; detail: number };

/** A picture that changes with time, as a piece has it: which it is depends on the piece and the frame alone. */
export interface MovingPicture {
  type: 'moving';
  /** Its name: two of one name are one and the same. */
  name: string;
  width: number;
  height: number;
  /** The state that a frame (0 or more) finds: a whole number. */
  stateAt: (frame: number) => number;
  /** Whether a frame is no continuation of the one before it, as where a clip begins again. */
  jumps?: (frame: number) => boolean;
  at: (state: number) => Picture | Promise<Picture>;
  /** Who finds something in it for others, in a worker of its own. */
  seeing?: Seeing;
}

export interface Seeing {
  /** The measure of its pictures in some states. */
  find: (states: readonly number[], look: Look) => Promise<Float32Array>;
  /** Gives numbers back that are not wanted any more: their room can be used again. */
  back: (found: Float32Array) => void;
}

export interface Curve {
  /** x, y, z of each point in turn; straight between them. */
  points: Float32Array;
  closed: boolean;
}

export interface Outline {
  type: 'outline';
  curves: Curve[];
  words?: Lettered;
}

/** A font with outlines, for words. */
export interface FontStock {
  type: 'font';
  family: string;
  /** Letters that it has. */
  letters: number;
  bytes: Uint8Array;
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

/** A sample as loud as can be; the loudest that is kept above 0 is one less, as in files of 16 bits. */
export const FULL_SCALE = 32768;

export interface Sound {
  type: 'sound';
  /** Samples a second. */
  rate: number;
  /** One channel, or left and right, of one length; see FULL_SCALE. */
  channels: Int16Array[];
}

/** Things that stand in space, and so have a unit of length. */
export type InSpace = Mesh | Cloud | Outline;

export type StockData = InSpace | Picture | LookupTable | Sound | Clip | Motion | FontStock;

/** Whether things of a type stand in space. */
export function standsInSpace(type: StockType): type is InSpace['type'] {
  return type === 'mesh' || type === 'cloud' || type === 'outline';
}

/** Whether a thing of the stock does. */
export function inSpace(data: StockData): data is InSpace {
  return standsInSpace(data.type);
}
