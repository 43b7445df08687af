import '@vast-swarm/core/content';
import { arrived, type Look, type StockData } from '@vast-swarm/core/stock';
import { finderIn, type ShownPicture } from '@vast-swarm/core/plan';
import { transfer } from 'comlink';
import { exposeWorker } from '../workers/exposeWorker';

export interface Asked {
  shown: ShownPicture;
  states: readonly number[];
  look: Look;
}

/** Plays moving pictures for the engine, and finds in them what it asks for. */
export interface LookWorker {
  /** A file that pictures are of. */
  file: (hash: string, data: StockData) => void;
  /** Measures of pictures, in the order of the questions; `spare` are lists that they may be put into. */
  look: (asked: readonly Asked[], spare: Float32Array<ArrayBuffer>[]) => Promise<Found[]>;
}

/** A list of numbers, or why it could not be found: what fails one is no reason to fail all. */
export type Found = Float32Array<ArrayBuffer> | { name: string; message: string };

const files = new Map<string, StockData>();
const find = finderIn(files);

const worker: LookWorker = {
  file(hash, data) {
    files.set(hash, arrived(data));
  },
  async look(asked, spare) {
    const found = await Promise.all(asked.map((one) => lookFor(one, spare)));
    return transfer(
      found,
      found.flatMap((f) => ('buffer' in f ? [f.buffer] : [])),
    );
  },
};
exposeWorker(worker);

async function lookFor(
  { shown, states, look }: Asked,
  spare: Float32Array<ArrayBuffer>[],
): Promise<Found> {
  try {
    const found = await find(shown, states, look);
    // What belongs to a picture that is at hand stays there; fresh memory costs more than what is written into it.
    const at = spare.findIndex((s) => s.length === found.length);
    if (at < 0) return found.slice();
    const [given] = spare.splice(at, 1);
    given!.set(found);
    return given!;
  } catch (error) {
    const { name, message } = error instanceof Error ? error : new Error(String(error));
    return { name, message };
  }
}
