import { arrived, finderIn, type Look, type ShownPicture, type StockData } from '@vast-swarm/core';
import { expose, transfer } from 'comlink';

export interface Asked {
  shown: ShownPicture;
  states: readonly number[];
  look: Look;
}

/** Plays moving pictures for the engine, and finds in them what it asks for. */
export interface LookWorker {
  /** A file that pictures are of. */
  file: (hash: string, data: StockData) => void;
  /** What is found, in the same order; `spare` are lists that it may be put into. */
  look: (asked: readonly Asked[], spare: Float32Array<ArrayBuffer>[]) => Promise<Found[]>;
}

/** A list of numbers, or why it could not be found. */
export type Found = Float32Array | string;

const files = new Map<string, StockData>();
const find = finderIn(files);
/** Fresh memory costs more than what is written into it. */
const spares: Float32Array<ArrayBuffer>[] = [];

const worker: LookWorker = {
  file(hash, data) {
    files.set(hash, arrived(data));
  },
  async look(asked, spare) {
    spares.push(...spare);
    const found = await Promise.all(asked.map(one));
    const buffers = found.flatMap((f) => (typeof f === 'string' ? [] : [f.buffer as ArrayBuffer]));
    spares.length = 0;
    return transfer(found, buffers);
  },
};
expose(worker);

async function one({ shown, states, look }: Asked): Promise<Found> {
  try {
    const found = await find(shown, states, look);
    // What belongs to a picture that is at hand stays there.
    const at = spares.findIndex((s) => s.length === found.length);
    if (at < 0) return found.slice();
    const [given] = spares.splice(at, 1);
    given!.set(found);
    return given!;
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
}
