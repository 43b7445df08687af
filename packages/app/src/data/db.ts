import Dexie, { type EntityTable } from 'dexie';
import type { Piece, StockType } from '@vast-swarm/core';

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

/** A file of the stock. */
export interface StoredStock {
  /** SHA-256 of the bytes, in hexadecimal. */
  hash: string;
  name: string;
  /** Name of the file, with its ending; a picture of another kind is kept as PNG. */
  file: string;
  type: StockType;
  bytes: Blob;
  added: number;
  /** Of a clip: whether there is a sound in it. */
  heard?: boolean;
  /** What is in it, in words: counts and bounds. */
  about: string;
}

/** A file that could not be taken, and why. */
export interface FailedStock {
  file: string;
  problem: string;
  added: number;
}

/** A swarm's stored motion; the frames themselves are in a file of the browser's own. */
export interface StoredBake {
  /** Piece and swarm. */
  id: string;
  /** The motion key it was made from: another key, and it is stale. */
  key: string;
  file: string;
  first: number;
  last: number;
  capacity: number;
  state: readonly string[];
  born: readonly number[];
  bytes: number;
  made: number;
}

/** A version of a piece that was kept to be compared with. */
export interface Snapshot {
  id: string;
  /** The piece it is a version of. */
  of: string;
  name: string;
  made: number;
  piece: Piece;
}

/** What the application keeps in the browser. */
class Library extends Dexie {
  pieces!: EntityTable<StoredPiece, 'id'>;
  /** Which demo pieces have been seeded: they are not seeded again when removed. */
  seeded!: EntityTable<{ id: string }, 'id'>;
  stock!: EntityTable<StoredStock, 'hash'>;
  failures!: EntityTable<FailedStock, 'file'>;
  bakes!: EntityTable<StoredBake, 'id'>;
  snapshots!: EntityTable<Snapshot, 'id'>;

  constructor() {
    super('vast-swarm');
    this.version(1).stores({ pieces: 'id, changed', seeded: 'id' });
    this.version(2).stores({ stock: 'hash, added', failures: 'file', bakes: 'id' });
    this.version(3).stores({ snapshots: 'id, of, made' });
  }
}

export const library = new Library();
