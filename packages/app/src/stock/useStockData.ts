import { useEffect, useState } from 'react';
import { stockData, type StockData } from '@vast-swarm/core/stock';
import type { Piece } from '@vast-swarm/core/piece';
import { filesOf } from '../data/stock';

/** A thing of the piece's stock, as soon as it has been read; null where there is none. */
export function useStockData(piece: Piece, id: string): StockData | null {
  const entry = piece.stock.find((s) => s.id === id);
  const [data, setData] = useState<StockData | null>(null);
  useEffect(() => {
    let current = true;
    const load = async (): Promise<void> => {
      const read = entry && stockData(entry, await filesOf([entry]));
      if (current) setData(read ?? null);
    };
    void load();
    return () => {
      current = false;
    };
  }, [entry]);
  return data;
}
