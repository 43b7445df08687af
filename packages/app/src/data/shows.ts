import equal from 'fast-deep-equal';
import { fileNameOf } from '@vast-swarm/core/formats';
import { parsePiece, pieceText, type Piece } from '@vast-swarm/core/piece';
import { parseShow, showText, validateShow, type Show } from '@vast-swarm/core/show';
import type { Zipped } from '@vast-swarm/core/stock';
import { library, type StoredShow } from './db';
import { saveAs, stockFilesOf, takeStock, withHashes } from './files';
import { dropPending, readPendingShow, writePendingShow } from './pending';
import { addPiece } from './pieces';
import { newId } from './tab';
import { Listeners } from '../live/listeners';

export async function addShow(show: Show): Promise<string> {
  const id = newId();
  const now = Date.now();
  await library.shows.add({ id, show, created: now, changed: now });
  return id;
}

/** Shows as they are here, until the storage has them. */
const held = new Map<string, Show>();
export const heldListeners = new Listeners();

/**
 * Saves a show; until it is saved, and where it cannot be, it is what was made of it all the same.
 * @throws what the storage throws where it is full, or is not there
 */
export async function saveShow(id: string, show: Show): Promise<void> {
  held.set(id, show);
  heldListeners.tell();
  // A page that ends at once has written that down at least.
  writePendingShow(id, show);
  await library.shows.update(id, { show, changed: Date.now() });
  if (held.get(id) !== show) return;
  held.delete(id);
  dropPending(id);
}

/** A show as it is here; null where there is none. */
export async function showOf(id: string): Promise<Show | null> {
  // Asked for in any case, so that whoever follows it hears of changes.
  const stored = await library.shows.get(id);
  const own = held.get(id);
  if (own) return own;
  return stored ? validateShow(stored.show) : null;
}

/** Saves what was not saved of a show when the page that it was open in ended. */
export async function keepPendingShow(id: string): Promise<void> {
  const pending = readPendingShow(id);
  if (pending && (await library.shows.get(id))) await saveShow(id, pending);
  else dropPending(id);
}

let removed: StoredShow | null = null;

/** Deletes a show, its pieces not; it can be restored as long as its undo is offered. */
export async function removeShow(stored: StoredShow): Promise<void> {
  await library.shows.delete(stored.id);
  removed = stored;
}

export async function restoreShow(): Promise<void> {
  if (removed) await library.shows.put(removed);
}

/** The pieces of a show, by id; those that are not there any more are left out. */
export async function piecesOf({ entries }: Show): Promise<Map<string, Piece>> {
  const ids = [...new Set(entries.map((e) => e.piece))];
  const stored = await library.pieces.bulkGet(ids);
  return new Map(stored.flatMap((s) => (s ? [[s.id, s.piece] as const] : [])));
}

/** The ending of a show's own file in its zip. */
const SHOW_FILE = '.show.json';

/** A show as one zip with all it needs: its own file, its pieces by their ids, and what they use from files. */
export async function exportShow(show: Show): Promise<void> {
  const pieces = await piecesOf(show);
  const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
  const files = [...pieces].map(([id, piece]) => [`${id}.swarm.json`, bytes(pieceText(piece))]);
  const base = fileNameOf(show.name);
  const { zipSync } = await import('fflate');
  const zip = zipSync(
    {
      [`${base}${SHOW_FILE}`]: bytes(showText(show)),
      pieces: Object.fromEntries(files) as Zipped,
      stock: await stockFilesOf([...pieces.values()]),
    },
    { level: 1 },
  );
  saveAs(new Blob([zip], { type: 'application/zip' }), `${base}.show.zip`);
}

/**
 * Takes in a show with its pieces and their stock. A piece that is here already, just as it is, is not taken twice.
 * Nothing is taken in before all of it has been read.
 *
 * @param own the show's file
 * @returns the show, and the files of pieces that the zip does not have
 * @throws PieceError, or an Error, that says which file is wrong
 */
export async function takeShow(
  own: { name: string; text: string },
  entries: Zipped,
): Promise<{ show: Show; missing: string[] }> {
  const text = (name: string): string => new TextDecoder().decode(entries[name]);
  const show = read(own.name, own.text, parseShow);
  const pieces = new Map<string, Piece>();
  const missing: string[] = [];
  for (const id of new Set(show.entries.map((e) => e.piece))) {
    const file = `pieces/${id}.swarm.json`;
    const name = Object.keys(entries).find((n) => `/${n}`.endsWith(`/${file}`));
    if (name) pieces.set(id, await withHashes(read(name, text(name), parsePiece), entries));
    else missing.push(file);
  }
  const ids = new Map<string, string>();
  for (const [id, piece] of pieces) {
    await takeStock(piece, entries);
    const stored = await library.pieces.get(id);
    ids.set(id, stored && equal(stored.piece, piece) ? id : await addPiece(piece));
  }
  const taken = {
    ...show,
    entries: show.entries.map((e) => ({ ...e, piece: ids.get(e.piece) ?? e.piece })),
  };
  await addShow(taken);
  return { show: taken, missing };
}

function read<T>(name: string, text: string, parse: (text: string) => T): T {
  try {
    return parse(text);
  } catch (error) {
    throw new Error(`${name}: ${error instanceof Error ? error.message : String(error)}`, {
      cause: error,
    });
  }
}
