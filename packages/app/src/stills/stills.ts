import type { Piece } from '@vast-swarm/core/piece';
import type { StockFiles } from '@vast-swarm/core/stock';
import { sentFiles } from '@vast-swarm/core/stock';
import { openWorker, type OpenWorker } from '../workers/openWorker';
import type { StillWorker } from './stillWorker';

/** A small picture, or why there is none. */
export type Still = ImageBitmap | string;

export interface StillSize {
  width: number;
  height: number;
}

/** Draws small pictures of pieces beside the work, one after the other. */
export class Stills {
  private worker: OpenWorker<StillWorker> | null = null;
  private run = 0;

  /**
   * Draws pieces at a frame, in order. What was wanted before is left off.
   *
   * @param shown is told of each as soon as it is there
   */
  async draw(
    pieces: readonly Piece[],
    files: StockFiles,
    { frame, size }: { frame: number; size: StillSize },
    shown: (index: number, still: Still) => void,
  ): Promise<void> {
    const own = ++this.run;
    const worker = (this.worker ??= this.opened());
    void worker.call.files(sentFiles(files));
    for (const [i, piece] of pieces.entries()) {
      const still = await worker
        .ask(worker.call.draw({ piece, frame, ...size }))
        .catch((error: unknown) => (error instanceof Error ? error.message : String(error)));
      if (own !== this.run) {
        if (still instanceof ImageBitmap) still.close();
        return;
      }
      if (still !== null) shown(i, still);
    }
  }

  private opened(): OpenWorker<StillWorker> {
    const made = new Worker(new URL('./stillWorker.ts', import.meta.url), { type: 'module' });
    return openWorker<StillWorker>(made, () => {
      // What it was asked fails; the next who asks has another one.
      this.worker?.close();
      this.worker = null;
    });
  }

  close(): void {
    this.run += 1;
    this.worker?.close();
    this.worker = null;
  }
}
