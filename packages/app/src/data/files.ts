import { fileNameOf } from '@vast-swarm/core/formats';
import { fileNamed, withFile, type Zipped } from '@vast-swarm/core/stock';
import { parseParts, parsePiece, pieceText, type Parts, type Piece } from '@vast-swarm/core/piece';
import { transfer } from 'comlink';
import { library } from './db';
import { inStockWorker } from '../reading/inStockWorker';
import { sha256 } from '../reading/sha256';
import { importStock } from './stock';

/** The largest zip that is read. */
const MOST_ZIP = 1024 * 2 ** 20;

/** @throws an Error that says what is wrong with the zip */
export async function unzipped(file: File): Promise<Zipped> {
  if (file.size > MOST_ZIP)
    throw new Error('The zip has more than 1 GB; import its parts one by one.');
  const bytes = await file.arrayBuffer();
  return inStockWorker(file.name, ({ call, called }, progress) =>
    call.unzip(transfer(bytes, [bytes]), called(progress)),
  );
}

/**
 * A piece with the hashes of what it uses from files, out of the folder `stock` of a zip.
 * @throws an Error that names the file which is another than the piece was made with
 */
export async function withHashes(piece: Piece, entries: Zipped): Promise<Piece> {
  const stock = piece.stock.map(async (entry) => {
    const named = fileNamed(entry);
    const bytes = named ? stockOfZip(entries, named.file) : undefined;
    if (!bytes || !named) return entry;
    const hash = await sha256(bytes);
    if (hash.startsWith(named.hash)) return withFile(entry, { file: named.file, hash });
    throw new Error(
      `stock/${named.file}: this is another file than the piece '${piece.name}' was made with (SHA-256 ${hash}); nothing was taken in.`,
    );
  });
  return { ...piece, stock: await Promise.all(stock) };
}

function stockOfZip(entries: Zipped, file: string): Uint8Array | undefined {
  const name = Object.keys(entries).find((n) => `/${n}`.endsWith(`/stock/${file}`));
  return name === undefined ? undefined : entries[name];
}

/** Takes what a piece uses from files into the stock, out of the folder `stock` of a zip. */
export async function takeStock({ stock }: Piece, entries: Zipped): Promise<void> {
  for (const entry of stock) {
    const named = fileNamed(entry);
    const bytes = named ? stockOfZip(entries, named.file) : undefined;
    if (!bytes || !named) continue;
    await importStock(new File([bytes as Uint8Array<ArrayBuffer>], named.file));
  }
}

/** Files that pieces use, by their names. */
export async function stockFilesOf(pieces: readonly Piece[]): Promise<Record<string, Uint8Array>> {
  const files: Record<string, Uint8Array> = {};
  for (const named of pieces.flatMap((p) => p.stock).map(fileNamed)) {
    if (!named || files[named.file]) continue;
    const stored = await library.stock.get(named.hash).catch(() => undefined);
    if (stored) files[named.file] = new Uint8Array(await stored.bytes.arrayBuffer());
  }
  return files;
}

/**
 * The piece of a zip, with its stock, in a folder of that name, taken in: not before the piece itself has been read.
 *
 * @param text the piece's file
 * @throws PieceError, or an Error that says what is wrong with the zip
 */
export async function pieceOfZip(text: string, entries: Zipped): Promise<Piece> {
  const piece = await withHashes(parsePiece(text), entries);
  await takeStock(piece, entries);
  return piece;
}

/** Parts of a zip, with their stock taken in, likewise. */
export async function partsOfZip(text: string, entries: Zipped): Promise<Parts> {
  const parts = parseParts(text);
  const piece = await withHashes(parts.piece, entries);
  await takeStock(piece, entries);
  return { ...parts, piece };
}

export function saveAs(blob: Blob, name: string): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // The download has begun by then; the browser keeps its own hold on the data.
  setTimeout(() => {
    URL.revokeObjectURL(url);
  }, 10_000);
}

/**
 * Saves a document as JSON; with what its piece uses from files, as a zip of both.
 *
 * @param sort stands before the ending of the file's name
 */
export async function saveDocument(
  text: string,
  { name, sort, piece }: { name: string; sort: 'swarm' | 'parts'; piece: Piece },
): Promise<void> {
  const base = `${fileNameOf(name)}.${sort}`;
  const stock = await stockFilesOf([piece]);
  if (Object.keys(stock).length === 0) {
    saveAs(new Blob([text], { type: 'application/json' }), `${base}.json`);
    return;
  }
  const json = new TextEncoder().encode(text);
  const { zipSync } = await import('fflate');
  const zip = zipSync({ [`${base}.json`]: json, stock }, { level: 1 });
  saveAs(new Blob([zip], { type: 'application/zip' }), `${base}.zip`);
}

export async function exportPiece(piece: Piece): Promise<void> {
  await saveDocument(pieceText(piece), { name: piece.name, sort: 'swarm', piece });
}
