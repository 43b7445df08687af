import { library, type StoredPiece } from './db';

/** A piece as far as it is known without reading it: a shelf may have thousands. */
export interface ShelfRow {
  id: string;
  name: string;
  /** Milliseconds since 1970. */
  changed: number;
  /** '' where it is in none. */
  folder: string;
  tags: readonly string[];
  demo: boolean;
}

/** All pieces, by what the storage keeps beside them for finding them. */
export function shelfRows(): Promise<ShelfRow[]> {
  return library.transaction('r', library.pieces, async () => {
    const [names, changed, folders, tags, demo] = await Promise.all([
      column<string>('piece.name'),
      column<number>('changed'),
      column<string>('folder'),
      column<string>('tags'),
      column<string>('demo'),
    ]);
    const inFolder = new Map(folders);
    const when = new Map(changed);
    const demos = new Set(demo.map(([id]) => id));
    const tagged = new Map<string, string[]>();
    for (const [id, tag] of tags) tagged.set(id, [...(tagged.get(id) ?? []), tag]);
    return names.map(([id, name]) => ({
      id,
      name,
      changed: when.get(id) ?? 0,
      folder: inFolder.get(id) ?? '',
      tags: tagged.get(id) ?? [],
      demo: demos.has(id),
    }));
  });
}

/** Ids, each with what an index has of it; those that have none of it are left out. */
async function column<T>(index: string): Promise<[id: string, value: T][]> {
  const all = library.pieces.orderBy(index);
  const [ids, values] = await Promise.all([all.primaryKeys(), all.clone().keys()]);
  return ids.map((id, i) => [id, values[i] as T]);
}

export function rowOf({ id, piece, changed, folder = '', tags = [], demo }: StoredPiece): ShelfRow {
  return { id, name: piece.name, changed, folder, tags, demo: demo !== undefined };
}

export const SORTS = { changed: 'Newest first', name: 'By name', oldest: 'Oldest first' } as const;
export type Sort = keyof typeof SORTS;

/** The part of a shelf that is wanted. */
export interface Wanted {
  /** Words that all have to be in the name, the folder or a tag. */
  search: string;
  /** Null: all folders. */
  folder: string | null;
  sort: Sort;
}

const BY: Readonly<Record<Sort, (a: ShelfRow, b: ShelfRow) => number>> = {
  changed: (a, b) => b.changed - a.changed,
  oldest: (a, b) => a.changed - b.changed,
  name: (a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }),
};

export function wantedRows(
  rows: readonly ShelfRow[],
  { search, folder, sort }: Wanted,
): ShelfRow[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  return rows
    .filter((row) => {
      const text = [row.name, row.folder, ...row.tags].join(' ').toLowerCase();
      return (folder === null || row.folder === folder) && words.every((w) => text.includes(w));
    })
    .sort(BY[sort]);
}

/** Puts a piece in a folder, and gives it tags. */
export async function filePiece(
  id: string,
  folder: string,
  tags: readonly string[],
): Promise<void> {
  const named = [...new Set(tags.map((t) => t.trim()).filter(Boolean))].slice(0, 20);
  const kept = folder.trim().slice(0, 60);
  await library.pieces
    .where('id')
    .equals(id)
    .modify((stored) => {
      stored.tags = named.map((t) => t.slice(0, 40));
      if (kept) stored.folder = kept;
      else delete stored.folder;
    });
}
