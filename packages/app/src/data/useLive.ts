import { liveQuery } from 'dexie';
import { useEffect, useState } from 'react';

/**
 * The result of a query of the browser's storage, kept up to date; `start` until it is there.
 * @param query the same function at every call, as one of a module
 * @param trouble is told when the storage cannot be read; the same function at every call
 */
export function useLive<T>(
  query: () => Promise<T>,
  start: T,
  trouble: (error: unknown) => void = ignore,
): T {
  const [value, setValue] = useState(start);
  useEffect(() => {
    const watch = liveQuery(query).subscribe({ next: setValue, error: trouble });
    return () => {
      watch.unsubscribe();
    };
  }, [query, trouble]);
  return value;
}

/** Without storage there is nothing in it; that it is blocked is said by the list of pieces. */
function ignore(): void {
  // Nothing to do.
}
