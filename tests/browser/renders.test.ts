import { readFile } from 'node:fs/promises';
import { decode } from 'fast-png';
import { strToU8, unzipSync, zipSync } from 'fflate';
import type { Browser, Page } from 'playwright-core';
import { compilePiece } from '@vast-swarm/core/plan';
import { pieceText } from '@vast-swarm/core/piece';
import { CpuEngine } from '@vast-swarm/cpu';
import { smallOrder } from '../support/orders';
import { smallPiece } from '../support/pieces';
import { RunningRedis } from '../support/startRedis';
import { startServer, startWorker } from '../support/startServer';
import { keepPiece } from './keepPiece';
import { launch, startApp, type App } from './support';

/** The list of renders. */

let app: App;
let browser: Browser;
let page: Page;

beforeAll(async () => {
  [app, browser] = await Promise.all([startApp(), launch()]);
});
afterAll(async () => {
  app.stop();
  await browser.close();
});
beforeEach(async () => {
  page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await page.goto(`${await keepPiece(page, app.url, smallPiece())}/render`);
  await page.getByRole('combobox', { name: 'As' }).click();
  await page.getByRole('option', { name: /one zip file/ }).click();
});
afterEach(() => page.context().close());

const row = () => page.getByRole('listitem', { name: 'Small' });

async function saved(): Promise<Record<string, Uint8Array>> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    row().getByText('Save').click(),
  ]);
  return unzipSync(await readFile(await download.path()));
}

async function isFrame20(bytes: Uint8Array, oversample = 1): Promise<boolean> {
  const engine = await CpuEngine.create({ threads: 2 });
  engine.setPlan(compilePiece(smallPiece()));
  engine.reset();
  while (engine.frame < 20) engine.step();
  const { pixels } = engine.draw(128, 72, oversample);
  engine.close();
  const { data, channels } = decode(bytes);
  return pixels.every((v, i) => i % 4 === 3 || v === data[(i >> 2) * channels + (i % 4)]);
}

test('the server renders what the page orders, is paused and goes on, and gives the same pixels', async () => {
  await page.getByRole('spinbutton', { name: 'To frame' }).fill('89');
  await page.getByRole('switch', { name: /Render at the server/ }).check();
  await page.getByRole('button', { name: 'Render 90 frames' }).click();
  await row().getByRole('button', { name: 'Pause' }).click();
  await row().getByText('Paused').waitFor();
  await page.reload();
  await row().getByRole('button', { name: 'Go on' }).click();
  await row().getByText('Done').waitFor();
  await row().getByText('90 / 90 frames').waitFor();
  const files = await saved();
  expect(Object.keys(files).length).toBe(91);
  expect(await isFrame20(files['frame_0020.png']!)).toBe(true);
  await row().getByRole('button', { name: 'Remove' }).click();
  await row().waitFor({ state: 'detached' });
  await page.getByText('Nothing here. Open a piece, choose Render').waitFor();
});

const begin = async (): Promise<void> => {
  await page.getByRole('button', { name: /^Render \d+ frames/ }).click();
};
/** Frames of the row that are done. */
async function done(): Promise<number> {
  return Number(/(\d+) \/ \d+ frames/.exec(await row().innerText())?.[1]);
}
/** Waits until so many frames of the row are done. */
async function doneAtLeast(frames: number): Promise<void> {
  await page.waitForFunction((wanted) => {
    const text = document.querySelector<HTMLElement>('[aria-label="Small"]')?.innerText ?? '';
    return Number(/(\d+) \/ \d+ frames/.exec(text)?.[1]) >= wanted;
  }, frames);
}

test('frames of a render go on where they were when the page is loaded again, whole and the same', async () => {
  await page.getByRole('spinbutton', { name: 'To frame' }).fill('89');
  await page.getByRole('combobox', { name: 'Oversampling' }).click();
  await page.getByRole('option', { name: '4' }).click();
  await begin();
  await page.getByRole('link', { name: 'All renders' }).click();
  await doneAtLeast(5);
  await page.reload();
  await doneAtLeast(5);
  await row().getByText('Done').waitFor();
  await row().getByText('90 / 90 frames').waitFor();
  // What is done is there after another load too.
  await page.reload();
  const files = await saved();
  expect(Object.keys(files).length).toBe(91);
  expect(await isFrame20(files['frame_0020.png']!, 4)).toBe(true);
  await row().getByRole('button', { name: 'Remove' }).click();
  await row().waitFor({ state: 'detached' });
});

test('a render is paused, stays so when the page is loaded again, and goes on with its frames', async () => {
  // Long enough to be paused on the way.
  await page.getByRole('spinbutton', { name: 'Width' }).fill('320');
  await page.getByRole('spinbutton', { name: 'Height' }).fill('180');
  await page.getByRole('combobox', { name: 'Oversampling' }).click();
  await page.getByRole('option', { name: '4' }).click();
  await begin();
  await page.getByRole('link', { name: 'All renders' }).click();
  await doneAtLeast(3);
  await row().getByRole('button', { name: 'Pause' }).click();
  await row().getByText('Paused').waitFor();
  const there = await done();
  expect(there).toBeGreaterThanOrEqual(3);
  await page.reload();
  await row().getByText('Paused').waitFor();
  // The frame that was being made may have been finished since; from then on it stays so.
  const now = await done();
  expect([there, there + 1]).toContain(now);
  await page.reload();
  await row().getByText('Paused').waitFor();
  expect(await done()).toBe(now);
  await row().getByRole('button', { name: 'Go on' }).click();
  await row().getByText('Done').waitFor();
});

test('two renders are made one after the other; one that waits can be cancelled and tried again', async () => {
  await page.getByRole('combobox', { name: 'Oversampling' }).click();
  await page.getByRole('option', { name: '4' }).click();
  // Long enough for all that is done meanwhile.
  await page.getByRole('spinbutton', { name: 'Width' }).fill('1280');
  await page.getByRole('spinbutton', { name: 'Height' }).fill('720');
  await begin();
  await page.getByRole('link', { name: 'Back to the workshop' }).click();
  await page.getByRole('link', { name: 'Vast Swarm' }).click();
  const buffer = Buffer.from(pieceText(smallPiece((p) => (p.name = 'Other'))));
  await page
    .getByLabel('Piece files')
    .setInputFiles({ name: 'other.json', mimeType: 'application/json', buffer });
  await page.getByRole('link', { name: 'Open Other' }).click();
  await page.getByRole('button', { name: 'Render' }).click();
  await page.getByRole('spinbutton', { name: 'To frame' }).fill('3');
  await begin();
  await page.getByText('It waits for the renders before it.').waitFor();
  await page.getByRole('link', { name: 'All renders' }).click();
  const other = page.getByRole('listitem', { name: 'Other' });
  await other.getByText('Waits').waitFor();
  await other.getByRole('button', { name: 'Cancel' }).click();
  await other.getByText('Cancelled').waitFor();
  await other.getByRole('button', { name: 'Try again' }).click();
  await row().getByRole('button', { name: 'Cancel' }).click();
  await other.getByText('Done').waitFor();
  await row().getByText('Cancelled').waitFor();
});

test('a render of a page that is closed goes on in another one that is open', async () => {
  await page.getByRole('combobox', { name: 'Oversampling' }).click();
  await page.getByRole('option', { name: '4' }).click();
  await begin();
  await page.getByRole('link', { name: 'All renders' }).click();
  await doneAtLeast(3);
  const first = page;
  page = await first.context().newPage();
  await page.goto(`${app.url}/renders`);
  await row().getByText('In another tab of this browser.').waitFor();
  await first.close();
  await row().getByText('Done').waitFor();
  expect(Object.keys(await saved()).length).toBe(91);
});

test('a server that has no renders says so', async () => {
  await page.route('**/api/renders', (route) => route.fulfill({ status: 404, body: 'no' }));
  await page.getByRole('switch', { name: /Render at the server/ }).check();
  await page.getByRole('button', { name: /^Render \d+ frames/ }).click();
  await page.getByText('There are no renders at this server.').waitFor();
});

test('workers of a queue are seen with what they are at', async () => {
  const redis = await RunningRedis.start();
  const server = await startServer(['--queue', redis.url]);
  await page.goto(`${server.url}/renders`);
  const workers = page.getByRole('region', { name: 'Workers' });
  await workers.getByText('No worker is there.').waitFor();
  const children = [
    await startWorker(redis.url, 'anna', 30),
    await startWorker(redis.url, 'ben', 30),
  ];
  await workers.getByRole('listitem', { name: 'ben' }).getByText('Waits').waitFor();
  const order = smallOrder({ width: 320, height: 180, last: 89, oversample: 2 });
  const data = zipSync({
    'order.json': strToU8(JSON.stringify(order)),
    'piece.swarm.json': strToU8(pieceText(smallPiece())),
  });
  const headers = { 'content-type': 'application/zip' };
  await page.request.post(`${server.url}/api/renders`, { headers, data: Buffer.from(data) });
  await workers
    .getByText(/^Small, frames \d+ to \d+$/)
    .first()
    .waitFor();
  await row()
    .getByRole('img', { name: /^\d+ of 12 chunks are made, [12] are being made$/ })
    .waitFor();
  await row().getByText('90 / 90 frames').waitFor();
  await row().getByText('Done').waitFor();
  for (const child of [...children, server.child]) child.kill();
  await redis.remove();
});
