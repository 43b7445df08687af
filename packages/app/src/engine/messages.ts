import type { Notice, Piece } from '@vast-swarm/core';

export type EngineKind = 'cpu' | 'gpu';
export type EngineChoice = 'auto' | EngineKind;

/** Lines of the preview: what a picture may cost. */
export const LINES = [1080, 720, 540, 432, 360, 270, 216] as const;
export type PreviewChoice = 'auto' | (typeof LINES)[number];

export type ToEngine =
  | { type: 'start'; canvas: OffscreenCanvas; engine: EngineChoice }
  | { type: 'piece'; piece: Piece }
  | { type: 'play' }
  | { type: 'pause' }
  | { type: 'seek'; frame: number }
  /** `room`: lines that the picture has on the screen. */
  | { type: 'preview'; choice: PreviewChoice; room: number }
  | { type: 'thumb' }
  /** Stops a part of the engine as a crash would; only tests send it. */
  | { type: 'crash' };

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
  | { type: 'thumb'; blob: Blob };
