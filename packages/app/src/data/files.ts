import { checkSize, parsePiece, pieceText, type Piece } from '@vast-swarm/core';
import { unzipSync, zipSync } from 'fflate';
import { library } from './db';
import { importStock } from './stock';

/** The largest zip that is read. */
const MOST_ZIP = 1024 * 2 ** 20;

/** Files of a zip by their names, and the names of folders before them. */
export type Zipped = Record<string, Uint8Array>;

/** @throws an Error that says what is wrong with the zip */
export async function unzipped(file: File): Promise<Zipped> {
  if (file.size > MOST_ZIP)
    throw new Error('The zip has more than 1 GB; import its parts one by one.');
  try {
    return unzipSync(new Uint8Array(await file.arrayBuffer()));
  } catch (error) {
    throw new Error(`The zip cannot be opened (${(error as Error).message}).`, { cause: error });
  }
}

/** Takes what a piece uses from files into the stock, out of the folder `stock` of a zip. */
export async function takeStock({ stock }: Piece, entries: Zipped): Promise<void> {
  for (const { source } of stock) {
    if (!('hash' in source)) continue;
    const name = Object.keys(entries).find((n) => n.endsWith(`stock/${source.file}`));
    const bytes = entries[name ?? ''];
    if (bytes) await importStock(new File([bytes as Uint8Array<ArrayBuffer>], source.file));
  }
}

/** What pieces use from files, by the names of those. */
export async function stockFilesOf(pieces: readonly Piece[]): Promise<Record<string, Uint8Array>> {
  const files: Record<string, Uint8Array> = {};
  for (const { source } of pieces.flatMap((p) => p.stock)) {
    if (!('hash' in source) || files[source.file]) continue;
    const stored = await library.stock.get(source.hash).catch(() => undefined);
    if (stored) files[source.file] = new Uint8Array(await stored.bytes.arrayBuffer());
  }
  return files;
}

/**
 * Reads a piece file that the artist chose or dropped.
 * @throws PieceError
 */
export async function readPieceFile(file: File): Promise<Piece> {
  checkSize(file.size);
  return parsePiece(await file.text());
}

/**
 * The piece of a zip, with its stock, in a folder of that name, taken in: not before the piece itself has been read.
 * @throws PieceError, or an Error that says what is wrong with the zip
 */
export async function pieceOfZip(entries: Zipped): Promise<Piece> {
  const name = Object.keys(entries).find((n) => n.endsWith('.json'));
  if (!name)
    throw new Error('There is no piece file in the zip: a name that ends in .json is wanted.');
  const piece = parsePiece(new TextDecoder().decode(entries[name]));
  await takeStock(piece, entries);
  return piece;
}

export function fileNameOf(name: string): string {
  return (
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'piece'
  );
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

/** The piece file; with what it uses from files, a zip of both. */
export async function exportPiece(piece: Piece): Promise<void> {
  const base = fileNameOf(piece.name);
  const text = pieceText(piece);
  const stock = await stockFilesOf([piece]);
  if (Object.keys(stock).length === 0) {
    saveAs(new Blob([text], { type: 'application/json' }), `${base}.swarm.json`);
    return;
  }
  const json = new TextEncoder().encode(text);
  const zip = zipSync({ [`${base}.swarm.json`]: json, stock }, { level: 1 });
  saveAs(new Blob([zip], { type: 'application/zip' }), `${base}.swarm.zip`);
}
