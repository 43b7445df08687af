import { readStock, StockError } from '@vast-swarm/core/stock';

/** Why a file is not taken into the stock, in words, or 'accepted'; whatever else goes wrong is thrown. */
export async function refusal(name: string, data: Uint8Array | string): Promise<string> {
  try {
    await readStock(name, typeof data === 'string' ? new TextEncoder().encode(data) : data);
    return 'accepted';
  } catch (error) {
    if (error instanceof StockError) return error.message;
    throw error;
  }
}
