import type { Piece } from '@vast-swarm/core/piece';
import type { StockFiles } from '@vast-swarm/core/stock';
import type { Settings } from '../formats/settings';

export interface Job extends Settings {
  /** Of the render, by which its frames are kept. */
  id: string;
  piece: Piece;
  /** The stock's things from files. */
  files: StockFiles;
  /** For frames straight into a folder. */
  folder?: FileSystemDirectoryHandle;
}

export interface RenderEvents {
  /** `there`: frames that were there before; `warming`: frames that are still to be simulated before the first one is drawn. */
  progress: (done: number, there: number, warming: number) => void;
  /** Before the first frame: what is being made ready that takes long, and the part of it that is done, 0 to 1. */
  building: (name: string, part: number) => void;
  /** The latest frame, small. */
  look: (bitmap: ImageBitmap) => void;
}

/** How a render has ended, with how many frames were done. */
export type RenderEnd =
  /** `note`: what the artist should know of the file. */
  | { phase: 'done'; blob: Blob | null; note: string | null }
  | { phase: 'cancelled'; done: number }
  | { phase: 'failed'; message: string; done: number };

export interface RenderWorker {
  render: (job: Job, events: RenderEvents) => Promise<RenderEnd>;
  cancel: () => void;
}
