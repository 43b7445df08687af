import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { build } from 'esbuild';
import type { Page } from 'playwright-core';
import { parsePiece, pieceText, type Piece } from '@vast-swarm/core/piece';

const DATA = join(__dirname, '../../packages/app/src/data/db');

/** The application's own storage, by itself. */
const storage = build({
  stdin: {
    contents: `export { library } from ${JSON.stringify(DATA)};`,
    resolveDir: __dirname,
  },
  bundle: true,
  write: false,
  format: 'iife',
  globalName: 'kept',
  target: 'es2022',
}).then(({ outputFiles }) => outputFiles[0]!.text);

/**
 * Puts a piece into the storage of a page's browser, as if it had been imported: for tests that begin in its workshop,
 * without the pages on the way there. Gives its address.
 */
export async function keepPiece(page: Page, url: string, piece: Piece): Promise<string> {
  const id = randomUUID();
  // Something light of the same address.
  await page.goto(`${url}/icon.svg`);
  const row = JSON.stringify({ id, piece: parsePiece(pieceText(piece)), created: 1, changed: 1 });
  await page.evaluate(`${await storage}\nkept.library.pieces.put(${row})`);
  return `${url}/piece/${id}`;
}
