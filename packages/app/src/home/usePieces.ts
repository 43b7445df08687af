import { liveQuery } from 'dexie';
import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { library, type StoredPiece } from '../data/db';
import { demoShow, followSeeded, unkeptListeners, unkeptPieces } from '../data/pieces';
import { rowOf, shelfRows, type ShelfRow } from '../data/shelf';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';

/** Pieces where there is no storage: those of the demo show. */
async function demoPieces(): Promise<StoredPiece[]> {
  const { DEMO_SHOW } = await demoShow();
  return DEMO_SHOW.pieces.map(({ id, piece }) => ({
    id,
    piece,
    created: 0,
    changed: 0,
    demo: id,
  }));
}

interface Pieces {
  /** Null until they are known. */
  rows: readonly ShelfRow[] | null;
  /** Those that are not in the storage, or newer than what it has. */
  held: readonly StoredPiece[];
}

/** All pieces, as they are stored or in this page alone. */
export function usePieces(): Pieces {
  const [stored, setStored] = useState<ShelfRow[] | null>(null);
  const [without, setWithout] = useState<readonly StoredPiece[]>([]);
  const unkept = useSyncExternalStore(unkeptListeners.add, unkeptPieces);
  const dispatch = useAppDispatch();
  useEffect(() => {
    const trouble = (error: unknown): void => {
      const why = error instanceof Error ? error.message : String(error);
      const message = `The browser's storage cannot be used (${why}). Pieces cannot be kept here; allow storage for this address and reload.`;
      dispatch(noticed({ key: 'storage', kind: 'wrong', message }));
      void demoPieces().then((demo) => {
        setStored((known) => {
          if (known) return known;
          setWithout(demo);
          return [];
        });
      });
    };
    // After the demo show is there: it must not push away a card that is about to be clicked.
    return followSeeded(shelfRows, setStored, trouble);
  }, [dispatch]);
  return useMemo(() => {
    const held = [...unkept, ...without];
    const own = new Set(held.map((p) => p.id));
    const rows = stored && [...held.map(rowOf), ...stored.filter((p) => !own.has(p.id))];
    return { rows, held };
  }, [stored, unkept, without]);
}

/** The pieces of some rows, in their order, as soon as they have been read, and kept up to date. */
export function useStoredPieces(
  rows: readonly ShelfRow[],
  held: readonly StoredPiece[],
): StoredPiece[] {
  const [read, setRead] = useState<ReadonlyMap<string, StoredPiece>>(new Map());
  const ids = rows.map((r) => r.id).join('\n');
  useEffect(() => {
    const wanted = ids === '' ? [] : ids.split('\n');
    const query = (): Promise<(StoredPiece | undefined)[]> => library.pieces.bulkGet(wanted);
    const watch = liveQuery(query).subscribe({
      next: (found) => {
        setRead(new Map(found.flatMap((p) => (p ? [[p.id, p] as const] : []))));
      },
      // That the storage cannot be read is said by the list of them.
      error: () => undefined,
    });
    return () => {
      watch.unsubscribe();
    };
  }, [ids]);
  const own = new Map(held.map((p) => [p.id, p]));
  return rows.flatMap(({ id }) => own.get(id) ?? read.get(id) ?? []);
}
