import { checkSize, parsePiece, pieceText, type Piece } from '@vast-swarm/core';
import { unzipSync, zipSync, type Zippable } from 'fflate';
import { library } from './db';
import { importStock } from './stock';

/** A zip holds a piece file and, in the folder `stock`, what it uses from files. */
const MOST_ZIP = 1024 * 2 ** 20;

/**
 * Reads a piece file, or a zip of one with its stock, that the artist chose or dropped. Nothing is
 * taken into the stock before the piece itself has been read.
 * @throws PieceError, or an Error that says what is wrong with the zip
 */
export async function readPieceFile(file: File): Promise<Piece> {
  if (!/\.zip$/i.test(file.name)) {
    checkSize(file.size);
    return parsePiece(await file.text());
  }
  if (file.size > MOST_ZIP)
    throw new Error('The zip has more than 1 GB; import its parts one by one.');
  const entries = unzipped(new Uint8Array(await file.arrayBuffer()));
  const name = Object.keys(entries).find((n) => n.endsWith('.json'));
  if (!name)
    throw new Error('There is no piece file in the zip: a name that ends in .json is wanted.');
  const piece = parsePiece(new TextDecoder().decode(entries[name]));
  for (const { source } of piece.stock) {
    if (!('hash' in source)) continue;
    const bytes =
      entries[Object.keys(entries).find((n) => n.endsWith(`stock/${source.file}`)) ?? ''];
    if (bytes) await importStock(new File([bytes as Uint8Array<ArrayBuffer>], source.file));
  }
  return piece;
}

function unzipped(bytes: Uint8Array): Record<string, Uint8Array> {
  try {
    return unzipSync(bytes);
  } catch (error) {
    throw new Error(`The zip cannot be opened (${(error as Error).message}).`, { cause: error });
  }
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
  const stock: Zippable = {};
  for (const { source } of piece.stock) {
    if (!('hash' in source)) continue;
    const stored = await library.stock.get(source.hash).catch(() => undefined);
    if (stored) stock[source.file] = new Uint8Array(await stored.bytes.arrayBuffer());
  }
  if (Object.keys(stock).length === 0) {
    saveAs(new Blob([text], { type: 'application/json' }), `${base}.swarm.json`);
    return;
  }
  const json = new TextEncoder().encode(text);
  const zip = zipSync({ [`${base}.swarm.json`]: json, stock }, { level: 1 });
  saveAs(new Blob([zip], { type: 'application/zip' }), `${base}.swarm.zip`);
}
