import { library, type StoredStock } from '../data/db';
import { useLive } from '../data/useLive';

const newestFirst = (): Promise<StoredStock[]> =>
  library.stock.orderBy('added').reverse().toArray();
const NONE: StoredStock[] = [];

/** Things in the browser's stock, newest first; kept up to date. */
export function useStoredStock(): StoredStock[] {
  return useLive(newestFirst, NONE);
}
