import type { LayOut, Mesh, Outline } from '@vast-swarm/core/stock';
import { openWorker, type OpenWorker } from '../workers/openWorker';
import type { StockWorker } from './stockWorker';

/** Texts that are kept as they were laid out: to and fro between two takes no work. */
const KEPT = 24;

let worker: OpenWorker<StockWorker> | null = null;
const known = new Map<string, Promise<Mesh | Outline>>();

/** Lays words out in a worker that stays for the next ones: they are typed letter by letter. */
export const laidOutWords: LayOut = (name, type, source, font) => {
  const key = JSON.stringify([type, source]);
  let found = known.get(key);
  if (!found) {
    worker ??= opened();
    found = worker.ask<Mesh | Outline>(worker.call.words(name, type, source, font));
    found.catch(() => known.delete(key));
    known.set(key, found);
    if (known.size > KEPT) known.delete([...known.keys()][0]!);
  }
  return found;
};

function opened(): OpenWorker<StockWorker> {
  const made = new Worker(new URL('./stockWorker.ts', import.meta.url), { type: 'module' });
  return openWorker<StockWorker>(made, () => {
    // What it was asked fails; what is asked next has another one.
    worker?.close();
    worker = null;
  });
}
