import Dexie, { type EntityTable } from 'dexie';
import type { Piece } from '@vast-swarm/core';

export interface StoredPiece {
  id: string;
  piece: Piece;
  /** Milliseconds since 1970. */
  created: number;
  changed: number;
  /** A small picture of it, when it has been seen. */
  thumb?: Blob;
  /** The demo piece it was seeded from, for its shipped picture. */
  demo?: string;
}

/** What the application keeps in the browser. */
class Library extends Dexie {
  pieces!: EntityTable<StoredPiece, 'id'>;
  /** Which demo pieces have been seeded: they are not seeded again when removed. */
  seeded!: EntityTable<{ id: string }, 'id'>;

  constructor() {
    super('vast-swarm');
    this.version(1).stores({ pieces: 'id, changed', seeded: 'id' });
  }
}

export const library = new Library();
