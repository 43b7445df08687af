import { liveQuery, type Subscription } from 'dexie';
import { DEMO_SHOW, validatePiece, type Piece } from '@vast-swarm/core';
import { library, type StoredPiece } from './db';

/** Puts the demo show in place at the first start. What the artist has is never touched. */
export async function seedDemo(): Promise<void> {
  const { pieces, shows, seeded } = library;
  await library.transaction('rw', pieces, shows, seeded, async () => {
    for (const [i, { id, piece }] of DEMO_SHOW.pieces.entries()) {
      if (await library.seeded.get(id)) continue;
      await library.seeded.add({ id });
      if (await library.pieces.get(id)) continue;
      const now = Date.now() - i;
      await library.pieces.add({ id, piece, created: now, changed: now, demo: id });
    }
    const { id, show } = DEMO_SHOW;
    if (await seeded.get(`show ${id}`)) return;
    await seeded.add({ id: `show ${id}` });
    const now = Date.now();
    if (!(await shows.get(id))) await shows.add({ id, show, created: now, changed: now, demo: id });
  });
}

/**
 * Follows what a query of the browser's storage gives, once the demo show is in place. Gives what ends it.
 *
 * @param trouble is told when the storage cannot be read
 */
export function followSeeded<T>(
  query: () => Promise<T>,
  next: (value: T) => void,
  trouble: (error: unknown) => void,
): () => void {
  let watch: Subscription | null = null;
  let left = false;
  void seedDemo()
    .catch(trouble)
    .then(() => {
      if (!left) watch = liveQuery(query).subscribe({ next, error: trouble });
    });
  return () => {
    left = true;
    watch?.unsubscribe();
  };
}

export function newId(): string {
  return crypto.randomUUID().slice(0, 13);
}

export async function addPiece(piece: Piece): Promise<string> {
  const id = newId();
  const now = Date.now();
  await library.pieces.add({ id, piece, created: now, changed: now });
  return id;
}

/** The stored piece, checked: storage may come from an older version of the application. */
export async function loadPiece(id: string): Promise<Piece | null> {
  // An address of the demo show may be the first that is ever opened.
  await seedDemo();
  const stored = await library.pieces.get(id);
  return stored ? validatePiece(stored.piece) : null;
}

export async function duplicatePiece(stored: StoredPiece): Promise<string> {
  return addPiece({ ...stored.piece, name: `${stored.piece.name} copy` });
}

export async function savePiece(id: string, piece: Piece): Promise<void> {
  await library.pieces.update(id, { piece, changed: Date.now() });
}

export async function saveThumb(id: string, thumb: Blob): Promise<void> {
  await library.pieces.update(id, { thumb });
}

let removed: StoredPiece | null = null;

/** Keeps a deleted piece for as long as its undo is offered. */
export function rememberRemoved(stored: StoredPiece): void {
  removed = stored;
}

export async function restoreRemoved(): Promise<void> {
  if (removed) await library.pieces.put(removed);
}
