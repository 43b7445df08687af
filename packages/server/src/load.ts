import {
  allPlayed,
  checkSize,
  decodeVideoBy,
  describeProblem,
  offerOf,
  parsePiece,
  PieceError,
  setDial,
  readPlayed,
  readStretch,
  readStock,
  StockError,
  TableError,
  type Piece,
  type StockData,
  type StockFiles,
} from '@vast-swarm/core';
import { createHash } from 'node:crypto';
import { readFile, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { ffmpegFrames } from './ffmpegFrames';
import { Refused } from './refused';

decodeVideoBy(ffmpegFrames);

export interface WorkOptions {
  set: string[];
  /** A table of what is played. */
  played?: string;
  /** Of a table of a night: which stretch of it. */
  stretch?: number;
  threads: number;
}

/** Reads a piece file; errors name the file, the line and the field. */
export async function load(
  file: string,
  { set, played, stretch }: Pick<WorkOptions, 'set' | 'played' | 'stretch'>,
): Promise<Piece> {
  const piece = await loadPiece(file, set);
  if (played !== undefined) return withPlayed(piece, played, stretch);
  if (stretch === undefined) return piece;
  throw new Refused(
    '--stretch says which part of a night; --played FILE.csv has to name its table.',
  );
}

/** A piece with what a table says is played of it. */
async function withPlayed(piece: Piece, table: string, stretch?: number): Promise<Piece> {
  const [offer, text] = [offerOf(piece), await textOf(table)];
  try {
    if (stretch === undefined) return { ...piece, played: readPlayed(offer, text) };
    // In a night a piece is played with what it has itself.
    return { ...piece, played: allPlayed(piece.played, readStretch(offer, text, stretch)) };
  } catch (error) {
    if (error instanceof TableError) throw new Refused(`${table}: ${error.message}`);
    throw error;
  }
}

async function loadPiece(file: string, set: readonly string[]): Promise<Piece> {
  return loadDocument(file, (text) => set.reduce(setDial, parsePiece(text)));
}

/**
 * Reads a document of ours.
 * @throws Refused that names the file, the line and the field
 */
export async function loadDocument<T>(file: string, parse: (text: string) => T): Promise<T> {
  try {
    return parse(await textOf(file));
  } catch (error) {
    if (!(error instanceof PieceError)) throw error;
    throw new Refused(error.problems.map((p) => `${file}: ${describeProblem(p)}`).join('\n'));
  }
}

/** What is in a file that is not too large to be one of ours. */
async function textOf(file: string): Promise<string> {
  try {
    const { size } = await stat(file);
    checkSize(size);
    return await readFile(file, 'utf8');
  } catch (error) {
    if (!(error instanceof Error && 'code' in error)) throw error;
    throw new Refused(`${file}: cannot be read (${String(error.code)}).`);
  }
}

/**
 * Reads what a piece's stock takes from files: they stand in the folder `stock` beside the piece.
 * @throws Refused that names the file and what is wrong
 */
export async function loadStock(file: string, piece: Piece): Promise<StockFiles> {
  const files = new Map<string, StockData>();
  for (const { name, source } of piece.stock) {
    if (!('hash' in source)) continue;
    const path = join(dirname(file), 'stock', source.file);
    const bytes = await readFile(path).catch((error: unknown) => {
      const why = (error as NodeJS.ErrnoException).code ?? 'unknown';
      throw new Refused(`${path}: cannot be read (${why}); the piece wants it as '${name}'.`);
    });
    const hash = createHash('sha256').update(bytes).digest('hex');
    if (!hash.startsWith(source.hash)) {
      throw new Refused(
        `${path}: this is another file than the piece was made with (SHA-256 ${hash}).`,
      );
    }
    try {
      files.set(source.hash, await readStock(source.file, new Uint8Array(bytes)));
    } catch (error) {
      if (error instanceof StockError) throw new Refused(error.message);
      throw error;
    }
  }
  return files;
}
