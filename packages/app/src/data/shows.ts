import equal from 'fast-deep-equal';
import { zipSync } from 'fflate';
import {
  parsePiece,
  parseShow,
  pieceText,
  showText,
  type Piece,
  type Show,
  type Zipped,
} from '@vast-swarm/core';
import { library, type StoredShow } from './db';
import { fileNameOf, saveAs, stockFilesOf, takeStock, withHashes } from './files';
import { addPiece } from './pieces';
import { newId } from './tab';

export async function addShow(show: Show): Promise<string> {
  const id = newId();
  const now = Date.now();
  await library.shows.add({ id, show, created: now, changed: now });
  return id;
}

export async function saveShow(id: string, show: Show): Promise<void> {
  await library.shows.update(id, { show, changed: Date.now() });
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
