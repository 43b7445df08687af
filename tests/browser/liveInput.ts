import { readFile } from 'node:fs/promises';
import type { Page } from 'playwright-core';
import { unzipSync } from 'fflate';
import { parsePiece, type Piece } from '@vast-swarm/core/piece';
import { readStock, type StockData } from '@vast-swarm/core/stock';

/** What tests of live input share: the piece with its takes, and devices that fail. */

/** The piece that is open, with its files, all of one type, as it is exported. */
export async function exported<T extends StockData>(
  page: Page,
): Promise<{ piece: Piece; files: Map<string, T> }> {
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export the piece file', exact: true }).click();
  const zip = unzipSync(await readFile(await (await download).path()));
  const name = Object.keys(zip).find((n) => n.endsWith('.json'))!;
  const piece = parsePiece(new TextDecoder().decode(zip[name]));
  const files = new Map<string, T>();
  for (const { source } of piece.stock) {
    if (!('hash' in source)) continue;
    const read = await readStock(source.file, zip[`stock/${source.file}`]!);
    files.set(source.hash, read as T);
  }
  return { piece, files };
}

/** The first device that is asked for is refused; what is opened then goes when `unplug` is called. */
export async function refusesFirst(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const { mediaDevices } = navigator;
    const open = mediaDevices.getUserMedia.bind(mediaDevices);
    let refused = false;
    mediaDevices.getUserMedia = async (wanted) => {
      if (!refused) {
        refused = true;
        throw new DOMException('', 'NotAllowedError');
      }
      const stream = await open(wanted);
      (window as unknown as { unplug: () => void }).unplug = () => {
        stream.getTracks()[0]!.dispatchEvent(new Event('ended'));
      };
      return stream;
    };
  });
}

export async function unplug(page: Page): Promise<void> {
  await page.evaluate(() => {
    (window as unknown as { unplug: () => void }).unplug();
  });
}

/** Records a second take, which counts from then on, until it is undone. */
export async function recordsAgain(page: Page): Promise<void> {
  const button = (name: string) => page.getByRole('button', { name, exact: true });
  await button('Record again').click();
  await page.getByText('It drives the piece, and is recorded.').waitFor();
  await button('Pause').click();
  await page.getByRole('combobox', { name: 'Take' }).getByText('take 2').waitFor();
  await page.keyboard.press('Control+z');
  await page.getByRole('combobox', { name: 'Take' }).getByText(/take$/).waitFor();
}
