import { dismissed, noticed } from '../store/noticeSlice';
import { store } from '../store/store';
import { openWorker, WorkerDied, type OpenWorker } from '../workers/openWorker';
import type { StockWorker } from './stockWorker';

/** Milliseconds of work that are nothing to speak of. */
const SOON = 700;

/** Ways to end what is being read, by the keys of their notices. */
const ends = new Map<string, () => void>();

/** Ends what a notice says is being read. */
export function cancelReading(key: string): void {
  ends.get(key)?.();
}

/** The part of a file that is read, 0 to 1, as a notice with a way to end it. */
function told(
  name: string,
  cancel: () => void,
  heard: (part: number) => void,
): { part: (part: number) => void; over: () => void } {
  const [key, since] = [`reading ${name}`, performance.now()];
  let over = false;
  ends.set(key, cancel);
  return {
    // What is told may come behind the end.
    part: (part) => {
      if (over) return;
      heard(part);
      if (performance.now() - since < SOON) return;
      const message = `Reading ${name}: ${String(Math.round(100 * part))} %`;
      store.dispatch(noticed({ key, kind: 'note', message, action: 'cancelReading' }));
    },
    over: () => {
      over = true;
      ends.delete(key);
      store.dispatch(dismissed(key));
    },
  };
}

/**
 * Has something done with a file in a worker of its own, which is gone behind it with all that it held. What takes long
 * is shown, and can be cancelled.
 *
 * @param work with what the worker is to tell the part of it that is done
 * @param heard hears of it as well
 * @throws Error that names the file where the worker dies over it, or it is cancelled
 */
export async function inStockWorker<T>(
  name: string,
  work: (worker: OpenWorker<StockWorker>, progress: (part: number) => void) => Promise<T>,
  heard: (part: number) => void = () => undefined,
): Promise<T> {
  const made = new Worker(new URL('./stockWorker.ts', import.meta.url), { type: 'module' });
  const worker = openWorker<StockWorker>(made);
  let cancel: () => void = () => undefined;
  const cancelled = new Promise<never>((_, reject) => {
    cancel = () => {
      reject(new Error(`${name}: reading it was cancelled.`));
    };
  });
  const progress = told(name, cancel, heard);
  try {
    return await Promise.race([worker.ask(work(worker, progress.part)), cancelled]);
  } catch (error) {
    if (!(error instanceof WorkerDied)) throw error;
    const why = `${name}: reading it failed (${error.message}). Try it once more.`;
    throw new Error(why, { cause: error });
  } finally {
    progress.over();
    worker.close();
  }
}
