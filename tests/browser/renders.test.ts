import { readFile } from 'node:fs/promises';
import { decode } from 'fast-png';
import { unzipSync } from 'fflate';
import type { Browser, Page } from 'playwright-core';
import { compilePiece, pieceText } from '@vast-swarm/core';
import { CpuEngine } from '@vast-swarm/cpu';
import { smallPiece } from '../support/pieces';
import { launch, startApp, type App } from './support';

/** The list of renders. */

let app: App;
let browser: Browser;
let page: Page;

beforeAll(async () => {
  [app, browser] = await Promise.all([startApp(), launch()]);
}, 45_000);
afterAll(async () => {
  app.stop();
  await browser.close();
});
beforeEach(async () => {
  page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await page.goto(app.url);
  const buffer = Buffer.from(pieceText(smallPiece()));
  await page
    .getByLabel('Piece files')
    .setInputFiles({ name: 'small.json', mimeType: 'application/json', buffer });
  await page.getByRole('link', { name: 'Open Small' }).click();
  await page.getByRole('button', { name: 'Render' }).click();
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

async function isFrame20(bytes: Uint8Array): Promise<boolean> {
  const engine = await CpuEngine.create({ threads: 2 });
  engine.setPlan(compilePiece(smallPiece()));
  engine.reset();
  while (engine.frame < 20) engine.step();
  const { pixels } = engine.draw(128, 72);
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
  await row().getByText('Done').waitFor({ timeout: 60_000 });
  await row().getByText('90 / 90 frames').waitFor();
  const files = await saved();
  expect(Object.keys(files).length).toBe(91);
  expect(await isFrame20(files['frame_0020.png']!)).toBe(true);
  await row().getByRole('button', { name: 'Remove' }).click();
  await row().waitFor({ state: 'detached' });
  await page.getByText('Nothing here. Open a piece').waitFor();
}, 90_000);

test('a server that has no renders says so', async () => {
  await page.route('**/api/renders', (route) => route.fulfill({ status: 404, body: 'no' }));
  await page.getByRole('switch', { name: /Render at the server/ }).check();
  await page.getByRole('button', { name: /^Render \d+ frames/ }).click();
  await page.getByText('There are no renders at this server.').waitFor();
}, 60_000);
