import {
  allPlayed,
  checkSize,
  describeProblem,
  parsePiece,
  PieceError,
  setDial,
  type Piece,
} from '@vast-swarm/core/piece';
import {
  checkStockSize,
  decodeVideoBy,
  readStock,
  StockError,
  type StockData,
  type StockEntry,
  type StockFiles,
  fileNamed,
  withFile,
  withWords,
} from '@vast-swarm/core/stock';
import { offerOf, readPlayed, TableError } from '@vast-swarm/core/formats';
import { readStretch } from '@vast-swarm/core/show';
import { readFile, realpath, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { ffmpegFrames } from './ffmpegFrames';
import { hashOf } from './hashOf';
import { Refused } from './refused';
import { whyNot } from './writeWhole';

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

/** The text of a file that is not too large to be one of ours. */
export async function textOf(file: string): Promise<string> {
  return (await bytesOf(file, checkSize)).toString('utf8');
}

/**
 * The bytes of a file.
 *
 * @param fits throws where it is too large
 * @throws Refused where it cannot be read, or is no file: a device may have no end
 */
async function bytesOf(file: string, fits: (bytes: number) => void): Promise<Buffer> {
  try {
    const about = await stat(file);
    if (!about.isFile()) throw new Refused(`${file}: this is no file.`);
    fits(about.size);
    return await readFile(file);
  } catch (error) {
    if (!(error instanceof Error && 'code' in error)) throw error;
    throw new Refused(`${file}: cannot be read: ${whyNot(error)}.`);
  }
}

/**
 * A piece with what its stock takes from files: they stand in the folder `stock` beside it. A file whose hash is not
 * written down gets it.
 *
 * @throws Refused that names the file and what is wrong
 */
export async function withStock(
  file: string,
  piece: Piece,
): Promise<{ piece: Piece; files: StockFiles }> {
  const files = new Map<string, StockData>();
  const folder = join(dirname(file), 'stock');
  const stock: StockEntry[] = [];
  for (const entry of piece.stock) {
    const named = fileNamed(entry);
    if (!named) {
      stock.push(entry);
      continue;
    }
    const { hash, data } = await refusing(stockFile(folder, named, entry.name));
    files.set(hash, data);
    stock.push(withFile(entry, { file: named.file, hash }));
  }
  return { piece: { ...piece, stock }, files: await refusing(withWords(stock, files)) };
}

/** Errors of the stock, in the words of the command line. */
async function refusing<T>(work: Promise<T>): Promise<T> {
  return work.catch((error: unknown) => {
    throw error instanceof StockError ? new Refused(error.message) : error;
  });
}

/** A piece as it stands in a file, with the hashes of its stock, and how long the shutter is open in degrees. */
export async function hashedPiece(file: string, shutter: number): Promise<Piece> {
  const piece = await loadPiece(file, [`camera.shutter=${String(shutter)}`]);
  const stock = await Promise.all(
    piece.stock.map(async (entry) => {
      const named = fileNamed(entry);
      if (!named || named.hash) return entry;
      const bytes = await bytesOf(join(dirname(file), 'stock', named.file), () => undefined);
      return withFile(entry, { file: named.file, hash: hashOf(bytes) });
    }),
  );
  return { ...piece, stock };
}

/** @throws Refused, or StockError, that names the file and what is wrong */
async function stockFile(
  folder: string,
  source: { file: string; hash: string },
  name: string,
): Promise<{ hash: string; data: StockData }> {
  const path = join(folder, source.file);
  await staysIn(folder, path, name);
  const bytes = await bytesOf(path, (size) => {
    checkStockSize(source.file, size);
  });
  const hash = hashOf(bytes);
  if (!hash.startsWith(source.hash)) {
    throw new Refused(
      `${path}: this is another file than the piece was made with (SHA-256 ${hash}).`,
    );
  }
  return {
    hash: source.hash || hash,
    data: await readStock(source.file, new Uint8Array(bytes)),
  };
}

/** A link could lead to any file of this machine. */
async function staysIn(folder: string, path: string, name: string): Promise<void> {
  try {
    const [own, real] = [await realpath(folder), await realpath(path)];
    if (dirname(real) !== own) throw new Refused(`${path}: this is a link out of its folder.`);
  } catch (error) {
    if (error instanceof Refused) throw error;
    const why = whyNot(error);
    throw new Refused(`${path}: cannot be read: ${why}; the piece wants it as '${name}'.`);
  }
}
