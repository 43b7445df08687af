import '@vast-swarm/core/content';
import { liveQuery, type Subscription } from 'dexie';
import equal from 'fast-deep-equal';
import { PieceError, validatePiece, type Piece } from '@vast-swarm/core/piece';
import { Listeners } from '../live/listeners';
import { noticed } from '../store/noticeSlice';
import { store } from '../store/store';
import { library, type StoredPiece } from './db';
import { dropPending, readPending } from './pending';
import { newId, TAB } from './tab';
import { tellUnkept } from './trouble';

/** The demo show, which is loaded when it is wanted: nobody waits for it to see their own pieces. */
export const demoShow = () => import('@vast-swarm/core/demo');

/** Puts the demo show in place at the first start. What the artist has is never touched. */
export async function seedDemo(): Promise<void> {
  const { DEMO_SHOW } = await demoShow();
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

/** Pieces, as they are now, that the storage has not taken: they are here for as long as the page is. */
const unkept = new Map<string, StoredPiece>();

/** Hear when there are others. */
export const unkeptListeners = new Listeners();
let unkeptList: readonly StoredPiece[] = [];

function unkeptChanged(): void {
  unkeptList = [...unkept.values()];
  unkeptListeners.tell();
}

/** Pieces of which the storage has another state, or none; another list only where there are others. */
export function unkeptPieces(): readonly StoredPiece[] {
  return unkeptList;
}

/** Puts a piece where it is found before the storage is asked for it. */
export function holdUnkept(id: string, piece: Piece): void {
  const now = Date.now();
  unkept.set(id, { ...(unkept.get(id) ?? { id, created: now }), piece, changed: now });
  unkeptChanged();
}

export function letUnkept(id: string): void {
  if (unkept.delete(id)) unkeptChanged();
}

/** Adds a piece; where the storage does not take it, it is in this page alone, and that is said. */
export async function addPiece(piece: Piece): Promise<string> {
  const id = newId();
  const now = Date.now();
  try {
    await library.pieces.add({ id, piece, created: now, changed: now });
  } catch (error) {
    holdUnkept(id, piece);
    tellUnkept(`${piece.name} is in this page alone`, error);
  }
  return id;
}

/** A piece, and the version of it that the storage has; whether it has any. */
export interface OpenedPiece {
  piece: Piece;
  rev: number;
  there: boolean;
}

/** The stored piece, checked: storage may come from an older version of the application. */
export async function openPiece(id: string): Promise<OpenedPiece | null> {
  const held = unkept.get(id);
  if (held) {
    const stored = await library.pieces.get(id).catch(() => undefined);
    return { piece: held.piece, rev: stored?.rev ?? 0, there: stored !== undefined };
  }
  try {
    // An address of the demo show may be the first that is ever opened. What is full can still be read.
    const seeding = await seedDemo().catch((error: unknown) => error as Error);
    const stored = await library.pieces.get(id);
    if (!stored && seeding) throw seeding;
    return stored ? await withPending(id, stored) : null;
  } catch (error) {
    const { DEMO_SHOW } = await demoShow();
    const demo = DEMO_SHOW.pieces.find((p) => p.id === id);
    if (!demo || error instanceof PieceError) throw error;
    tellUnkept('changes are not saved', error);
    return { piece: demo.piece, rev: 0, there: false };
  }
}

export async function loadPiece(id: string): Promise<Piece | null> {
  return (await openPiece(id))?.piece ?? null;
}

/** The stored piece, with the edits that were written down when a page was left. */
async function withPending(id: string, stored: StoredPiece): Promise<OpenedPiece> {
  const piece = validatePiece(stored.piece);
  const rev = stored.rev ?? 0;
  const pending = readPending(id);
  if (!pending || equal(pending.piece, piece)) {
    dropPending(id);
    return { piece, rev, there: true };
  }
  // The same page may have stored some of them still; of another's changes they know nothing.
  if (pending.rev === rev || pending.by === stored.by) {
    const saved = await savePiece(id, pending.piece, rev).catch((error: unknown) => {
      tellUnkept('changes are not saved', error);
      return null;
    });
    if (saved) dropPending(id);
    const now = saved && 'rev' in saved ? saved.rev : rev;
    return { piece: pending.piece, rev: now, there: true };
  }
  await addPiece({ ...pending.piece, name: `${pending.piece.name} (unsaved)`.slice(0, 120) });
  dropPending(id);
  const message = `${piece.name} was changed elsewhere while it was left here: what was not saved then is a piece of its own, '${piece.name} (unsaved)'.`;
  store.dispatch(noticed({ key: 'pending', kind: 'note', message }));
  return { piece, rev, there: true };
}

export async function duplicatePiece(stored: StoredPiece): Promise<string> {
  const { piece, thumb, folder, tags } = stored;
  const id = await addPiece({ ...piece, name: `${piece.name} copy` });
  // It stands where the first stands, and looks as it does.
  const along = {
    ...(thumb ? { thumb } : {}),
    ...(folder ? { folder } : {}),
    ...(tags ? { tags } : {}),
  };
  await library.pieces.update(id, along).catch(() => undefined);
  return id;
}

/** The result of a save: the version that is stored, or why nothing was. */
export type Saved = { rev: number } | { other: StoredPiece } | { gone: true };

/**
 * Saves a piece over the version that it was made from: another one, of another tab, is never overwritten.
 * @throws what the storage throws where it is full, or is not there
 */
export function savePiece(id: string, piece: Piece, rev: number): Promise<Saved> {
  return library.transaction('rw', library.pieces, async (): Promise<Saved> => {
    const there = await library.pieces.get(id);
    if (!there) return { gone: true };
    if ((there.rev ?? 0) !== rev) return { other: there };
    await library.pieces.update(id, { piece, changed: Date.now(), rev: rev + 1, by: TAB });
    return { rev: rev + 1 };
  });
}

/** Puts a piece back that was deleted elsewhere. */
export async function keepPiece(id: string, piece: Piece): Promise<number> {
  const now = Date.now();
  await library.pieces.put({ id, piece, created: now, changed: now, rev: 1, by: TAB });
  return 1;
}

export async function saveThumb(id: string, thumb: Blob): Promise<void> {
  await library.pieces.update(id, { thumb });
}

let removed: StoredPiece | null = null;

/** Deletes a piece; it can be restored as long as its undo is offered. */
export async function removePiece(stored: StoredPiece): Promise<void> {
  await library.pieces.delete(stored.id);
  letUnkept(stored.id);
  dropPending(stored.id);
  removed = stored;
}

export async function restoreRemoved(): Promise<void> {
  if (removed) await library.pieces.put(removed);
}
