import { documentIn } from '@vast-swarm/core/formats';
import { parsePiece, type Piece } from '@vast-swarm/core/piece';
import { parseShow, type Show } from '@vast-swarm/core/show';
import { unzip, type StockFiles } from '@vast-swarm/core/stock';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { loadDocument, withStock } from '../load';
import { Refused } from '../refused';
import { makeFolder, whyNot, writeWhole } from '../writeWhole';

/** A show out of its zip, with the pieces that its entries play. */
export interface ShowAtHand {
  show: Show;
  /** By the ids that entries name. */
  pieces: ReadonlyMap<string, { piece: Piece; files: StockFiles }>;
}

const PIECE = /^pieces\/([^/]+)\.swarm\.json$/;
const STOCK = /^stock\/[^/]+$/;

/**
 * Reads a show as it is exported.
 * @throws Refused that names the file and what is wrong
 */
export async function showIn(file: string): Promise<ShowAtHand> {
  let entries: Record<string, Uint8Array>;
  try {
    entries = unzip(new Uint8Array(await readFile(file)));
  } catch (error) {
    const why =
      error instanceof Error && 'code' in error ? whyNot(error) : (error as Error).message;
    throw new Refused(`${file}: cannot be read as a show: ${why}. A show is exported as a zip.`);
  }
  const found = documentIn(entries, 'vast-swarm show');
  if (!found) throw new Refused(`${file}: there is no show in it. A show is exported as a zip.`);
  const folder = await mkdtemp(join(tmpdir(), 'vast-swarm-show-'));
  try {
    await makeFolder(join(folder, 'stock'));
    const pieces = new Map<string, { piece: Piece; files: StockFiles }>();
    for (const [name, bytes] of Object.entries(entries)) {
      if (STOCK.test(name)) await writeWhole(join(folder, 'stock', basename(name)), bytes);
    }
    await writeWhole(join(folder, 'show.json'), found.text);
    const show = await loadDocument(join(folder, 'show.json'), parseShow);
    for (const [name, bytes] of Object.entries(entries)) {
      const id = PIECE.exec(name)?.[1];
      if (id === undefined) continue;
      const path = join(folder, basename(name));
      await writeWhole(path, bytes);
      pieces.set(id, await withStock(path, await loadDocument(path, parsePiece)));
    }
    return { show, pieces };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
