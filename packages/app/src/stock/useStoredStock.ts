import { liveQuery } from 'dexie';
import { useEffect, useState } from 'react';
import { library, type StoredStock } from '../data/db';

/** What is in the browser's stock, newest first; kept up to date. */
export function useStoredStock(): StoredStock[] {
  const [items, setItems] = useState<StoredStock[]>([]);
  useEffect(() => {
    const query = liveQuery(() => library.stock.orderBy('added').reverse().toArray());
    const watch = query.subscribe({
      next: setItems,
      // Without storage there is no stock; that it is blocked is said elsewhere.
      error: () => {
        setItems([]);
      },
    });
    return () => {
      watch.unsubscribe();
    };
  }, []);
  return items;
}
