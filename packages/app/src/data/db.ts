import Dexie, { type EntityTable, type Table } from 'dexie';
import type { ControlValue } from '@vast-swarm/core/feeds';
import type { NightRow, Show } from '@vast-swarm/core/show';
import type { PartList, Piece } from '@vast-swarm/core/piece';
import type { RenderJob } from '@vast-swarm/core/formats';
import type { StockType } from '@vast-swarm/core/stock';
import type { Settings } from '../formats/settings';

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
  /** Counts its versions, from 0; and which tab wrote the last one. */
  rev?: number;
  by?: string;
  /** Where it is kept, and what it is found by. */
  folder?: string;
  tags?: string[];
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
  /** Its contents in words: counts and bounds. */
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
  /** A small picture of it. */
  thumb?: Blob;
  /** Whether it was kept by itself. */
  auto?: boolean;
}

/** Parts that were kept to be used again. */
export interface StoredRecipe {
  id: string;
  name: string;
  /** Of the part that was chosen first. */
  list: PartList;
  /** The parts as their file's text. */
  text: string;
  thumb?: Blob;
  made: number;
}

export interface StoredShow {
  id: string;
  show: Show;
  created: number;
  changed: number;
  /** The demo show it was seeded from. */
  demo?: string;
}

/** How the night of a show stands, so that the output comes back to it. */
export interface StoredNight {
  /** The show. */
  id: string;
  /** Milliseconds since 1970. */
  began: number;
  changed: number;
  /** Seconds of it that have passed. */
  time: number;
  stretch: number;
  entry: string;
  frame: number;
  brightness: number;
  speed: number;
  blackout: boolean;
  held: boolean;
  good: Readonly<Record<string, ControlValue>>;
}

/** Some of what happened in the night of a show, in order of `at`. */
export interface StoredRows {
  at?: number;
  show: string;
  rows: NightRow[];
}

/** A render of this browser. */
export interface StoredRender {
  id: string;
  /** The page that makes it; where that is gone, another one goes on. */
  tab: string;
  /** Of which piece it is, by its id. */
  of: string;
  piece: Piece;
  settings: Settings;
  /** For frames straight into a folder. */
  folder?: FileSystemDirectoryHandle;
  state: RenderJob['state'];
  priority: number;
  /** Milliseconds since 1970. */
  added: number;
  ended: number | null;
  /** Frames that are there. */
  done: number;
  problem: string | null;
  note: string | null;
  /** Seconds that were worked at it. */
  seconds: number;
  /** The file that was made. */
  blob?: Blob;
}

/** A frame of a render that is not whole yet; one that went into a folder has no bytes here. */
export interface StoredFrame {
  render: string;
  frame: number;
  size: number;
  bytes?: Blob;
  /** CRC-32 of these bytes. */
  sum?: number;
}

/** The application's storage in the browser. */
class Library extends Dexie {
  pieces!: EntityTable<StoredPiece, 'id'>;
  /** Which demo pieces have been seeded: they are not seeded again when removed. */
  seeded!: EntityTable<{ id: string }, 'id'>;
  stock!: EntityTable<StoredStock, 'hash'>;
  failures!: EntityTable<FailedStock, 'file'>;
  bakes!: EntityTable<StoredBake, 'id'>;
  snapshots!: EntityTable<Snapshot, 'id'>;
  recipes!: EntityTable<StoredRecipe, 'id'>;
  shows!: EntityTable<StoredShow, 'id'>;
  nights!: EntityTable<StoredNight, 'id'>;
  nightRows!: EntityTable<StoredRows, 'at'>;
  renders!: EntityTable<StoredRender, 'id'>;
  renderFrames!: Table<StoredFrame, [string, number]>;

  constructor() {
    super('vast-swarm');
    this.version(1).stores({ pieces: 'id, changed', seeded: 'id' });
    this.version(2).stores({ stock: 'hash, added', failures: 'file', bakes: 'id' });
    this.version(3).stores({ snapshots: 'id, of, made' });
    this.version(4).stores({ shows: 'id, changed', nights: 'id', nightRows: '++at, show' });
    this.version(5).stores({ renders: 'id, tab', renderFrames: '[render+frame], render' });
    this.version(6).stores({
      recipes: 'id, made',
      pieces: 'id, changed, piece.name, folder, *tags, demo',
    });
  }
}

export const library = new Library();
