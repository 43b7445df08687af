import type { Motion } from '@vast-swarm/core';
import { openWorker } from '../workers/openWorker';
import type { StockWorker } from './stockWorker';

/** A motion as a file: a table of joints, or BVH, in a zip where there are several performers. */
export async function motionFile(name: string, motion: Motion, form: 'csv' | 'bvh'): Promise<File> {
  const made = new Worker(new URL('./stockWorker.ts', import.meta.url), { type: 'module' });
  const worker = openWorker<StockWorker>(made);
  try {
    const { blob, ending } = await worker.ask(worker.call.motionFile(name, motion, form));
    return new File([blob], `${name}.${ending}`, { type: blob.type });
  } finally {
    worker.close();
  }
}
