import { openWorker, WorkerDied, type OpenWorker } from '../workers/openWorker';
import type { StockWorker } from './stockWorker';

/**
 * Has something done with a file in a worker of its own, which is gone behind it with all that it held.
 *
 * @throws Error that names the file where the worker dies over it
 */
export async function inStockWorker<T>(
  name: string,
  work: (worker: OpenWorker<StockWorker>) => Promise<T>,
): Promise<T> {
  const made = new Worker(new URL('./stockWorker.ts', import.meta.url), { type: 'module' });
  const worker = openWorker<StockWorker>(made);
  try {
    return await worker.ask(work(worker));
  } catch (error) {
    if (!(error instanceof WorkerDied)) throw error;
    throw new Error(`${name}: reading it failed (${error.message}).`, { cause: error });
  } finally {
    worker.close();
  }
}
