import type { Piece, StockFiles } from '@vast-swarm/core';

export type Format = 'zip' | 'folder' | 'mp4' | 'webm';

export interface Job {
  piece: Piece;
  /** What its stock holds from files. */
  files: StockFiles;
  first: number;
  last: number;
  width: number;
  height: number;
  oversample: number;
  format: Format;
  /** For frames straight into a folder. */
  folder?: FileSystemDirectoryHandle;
}

export type ToRender = { type: 'start'; job: Job } | { type: 'cancel' };

export type FromRender =
  | { type: 'progress'; done: number; total: number; warming: number }
  | { type: 'look'; bitmap: ImageBitmap }
  | { type: 'done'; blob: Blob | null }
  | { type: 'cancelled'; done: number }
  | { type: 'failed'; message: string; done: number };
