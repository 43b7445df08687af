import type { Census, Notice, Piece, StockData, Take } from '@vast-swarm/core';

export type EngineKind = 'cpu' | 'gpu';
export type EngineChoice = 'auto' | EngineKind;

/** Lines of the preview: what a picture may cost. */
export const LINES = [1080, 720, 540, 432, 360, 270, 216] as const;
export type PreviewChoice = 'auto' | (typeof LINES)[number];

export type ToEngine =
  | { type: 'start'; canvas: OffscreenCanvas; engine: EngineChoice }
  | { type: 'piece'; piece: Piece }
  /** What the stock holds from files, by hash. */
  | { type: 'stock'; files: ReadonlyMap<string, StockData> }
  | { type: 'bakes'; bakes: readonly BakeFile[] }
  /** Stores the motion of a swarm, from the first frame to the last. */
  | { type: 'bake'; swarm: string; file: string }
  | { type: 'stopBake' }
  /** Asks how many particles of a swarm are seen, and why not more. */
  | { type: 'census'; swarm: string }
  /** Follows the particle nearest to a place in the picture (parts of its size), or none. */
  | { type: 'follow'; at: { x: number; y: number; swarm: string | null } | null }
  /** Moves a signal by hand; null lets it go. */
  | { type: 'drive'; signal: string; value: number | null }
  | { type: 'play' }
  | { type: 'pause' }
  | { type: 'seek'; frame: number }
  /** `room`: lines that the picture has on the screen. */
  | { type: 'preview'; choice: PreviewChoice; room: number }
  | { type: 'thumb' }
  /** Stops a part of the engine as a crash would; only tests send it. */
  | { type: 'crash' };

/** A swarm's stored motion, as the engine plays it. */
export interface BakeFile {
  swarm: string;
  /** Name of the file in the browser's own file system. */
  file: string;
  first: number;
  last: number;
  capacity: number;
  state: readonly string[];
  /** Ids born by the end of each frame. */
  born: readonly number[];
}

/** What a followed particle is doing. */
export interface FollowReport {
  swarm: string;
  id: number;
  /** Part of the picture's width and height. */
  x: number;
  y: number;
  age: number;
  life: number;
  speed: number;
  size: number;
  opacity: number;
  position: [number, number, number];
}

/** How the engine stands after a frame. */
export interface FrameReport {
  frame: number;
  playing: boolean;
  alive: number;
  /** Particles alive by swarm. */
  aliveBy: Readonly<Record<string, number>>;
  fps: number;
  engine: EngineKind;
  threads: number;
  width: number;
  height: number;
  /** Frames still to be simulated before the wanted frame is there; 0 when it is. */
  settling: number;
  /** False while the state carries on from before a change of motion. */
  exact: boolean;
  /** Milliseconds by stage. */
  times: Readonly<Record<string, number>>;
  memoryBytes: number;
}

export type FromEngine =
  | { type: 'frame'; report: FrameReport }
  | { type: 'notices'; notices: Notice[] }
  | { type: 'trouble'; message: string }
  | { type: 'thumb'; blob: Blob }
  | { type: 'census'; swarm: string; census: Census }
  | { type: 'followed'; report: FollowReport | null }
  /** A distance field is being built for a part: the part of it that is done, 1 at the end. */
  | { type: 'building'; name: string; part: number }
  /** What was recorded of a signal that was let go. */
  | { type: 'took'; signal: string; take: Take }
  | { type: 'baking'; swarm: string; done: number; total: number }
  | { type: 'baked'; swarm: string; bake: BakeFile; bytes: number; key: string }
  | { type: 'bakeStopped'; swarm: string; message: string | null };
