import { StockError } from './error';

/** Bytes: larger files would not fit into memory together with what is read from them. */
const MOST_BYTES = 512 * 2 ** 20;

/**
 * Refuses a file that is too large for the stock, before it is read.
 * @throws StockError
 */
export function checkStockSize(name: string, bytes: number): void {
  if (bytes <= MOST_BYTES) return;
  throw new StockError(name, `it has ${(bytes / 2 ** 20).toFixed(0)} MB; 512 MB is the most`);
}
