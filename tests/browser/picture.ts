import { readFile } from 'node:fs/promises';
import type { Locator, Page } from 'playwright-core';
import { parsePiece, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from '../support/pieces';
import { keepPiece } from './keepPiece';

/** What tests of the workshop share: the picture, and a small piece in it. */

export function pictureOf(page: Page): Locator {
  return page.getByTestId('picture');
}

/** Waits until what the picture tells about itself is as wanted. */
export async function pictureTells(
  page: Page,
  test: (data: DOMStringMap) => boolean,
): Promise<void> {
  const end = Date.now() + 60_000;
  for (;;) {
    const data = await pictureOf(page).evaluate(
      (element) =>
        new Promise<DOMStringMap>((resolve) => {
          requestAnimationFrame(() => resolve(Object.assign({}, (element as HTMLElement).dataset)));
        }),
    );
    if (test(data)) return;
    if (Date.now() > end) throw new Error(`the picture stays at ${JSON.stringify(data)}`);
  }
}

/** So long that what is recorded or played is through before the piece ends, however busy the machine is. */
export function lasting(piece: Piece): void {
  piece.frame.length = 3600;
}

/** Opens a small piece that is in the storage already. */
export async function openSmall(
  page: Page,
  url: string,
  change?: Parameters<typeof smallPiece>[0],
  test: (data: DOMStringMap) => boolean = (d) => Number(d.alive) > 0,
): Promise<void> {
  await page.goto(await keepPiece(page, url, smallPiece(change)));
  await pictureTells(page, test);
}

/** The open piece, without files of its stock, as it would be exported. */
export async function exportedPiece(page: Page): Promise<Piece> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export the piece file', exact: true }).click(),
  ]);
  return parsePiece(await readFile(await download.path(), 'utf8'));
}
