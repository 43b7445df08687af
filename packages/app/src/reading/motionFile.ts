import type { Motion } from '@vast-swarm/core/stock';
import { inStockWorker } from './inStockWorker';

/** A motion as a file: a table of joints, or BVH, in a zip where there are several performers. */
export async function motionFile(name: string, motion: Motion, form: 'csv' | 'bvh'): Promise<File> {
  const { blob, ending } = await inStockWorker(name, ({ call }) =>
    call.motionFile(name, motion, form),
  );
  return new File([blob], `${name}.${ending}`, { type: blob.type });
}
