import { validatePiece, type Piece } from '@vast-swarm/core/piece';
import { validateShow, type Show } from '@vast-swarm/core/show';
import { TAB } from './tab';

/**
 * Edits that the storage had not taken yet when a page was left: what is written there may be cut short by the end of
 * the page, what is written here is there at once.
 */

export interface Pending {
  /** The version that the edits were made on, and the tab they were made in. */
  rev: number;
  by: string;
  piece: Piece;
}

const keyOf = (id: string): string => `vast-swarm pending ${id}`;

/** Writes them down, where there is room: for a very large piece, or without any storage, there is none. */
export function writePending(id: string, rev: number, piece: Piece): void {
  write(id, { rev, by: TAB, piece } satisfies Pending);
}

/** The same of a show. */
export function writePendingShow(id: string, show: Show): void {
  write(id, { show });
}

function write(id: string, pending: object): void {
  try {
    localStorage.setItem(keyOf(id), JSON.stringify(pending));
  } catch {
    // What could be said of it nobody would see: the page ends.
  }
}

export function dropPending(id: string): void {
  try {
    localStorage.removeItem(keyOf(id));
  } catch {
    // Where there is no storage there is nothing to drop.
  }
}

/** The edits that were written down of a piece; null where there are none, or they cannot be read. */
export function readPending(id: string): Pending | null {
  return read(id, ({ rev, by, piece }) => ({ rev, by, piece: validatePiece(piece) }));
}

/** The same of a show. */
export function readPendingShow(id: string): Show | null {
  return read(id, ({ show }) => validateShow(show));
}

function read<T>(id: string, take: (written: Pending & { show: unknown }) => T): T | null {
  try {
    const text = localStorage.getItem(keyOf(id));
    return text === null ? null : take(JSON.parse(text) as Pending & { show: unknown });
  } catch {
    return null;
  }
}
