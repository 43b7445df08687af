import { readFile } from 'node:fs/promises';
import type { AxeResults } from 'axe-core';
import type { Page } from 'playwright-core';
import { openApp } from './openApp';
import { swept } from '../support/sweep';
import { exportedPiece, openSmall, pictureTells } from './picture';

/** Whoever comes: by keys alone, with a screen reader, with things twice as large, with a browser that lacks something. */

const app = openApp();

const VIEWS: [view: string, at: string][] = [
  ['pieces', '/'],
  ['workshop', '/piece/plankton-lantern'],
  ['compare', '/piece/plankton-lantern/compare'],
  ['render', '/piece/plankton-lantern/render'],
  ['renders', '/renders'],
  ['stock', '/stock'],
  ['desk', '/show/saltglass-quay'],
  ['output', '/show/saltglass-quay/output'],
  ['wall', '/wall'],
  ['guide', '/guide'],
];

/** Opens a view, until what it is about is there. */
async function open(page: Page, at: string): Promise<void> {
  await page.goto(app.url + at);
  await page.locator('h1').first().waitFor({ state: 'attached' });
  if (at === '/') await page.getByText(/^and \d+ more$/).waitFor();
}

let source: string;
beforeAll(async () => {
  source = await readFile(require.resolve('axe-core/axe.min.js'), 'utf8');
});

/** What can be pressed or typed in and reaches beyond the window, or out of what scrolls, where it cannot be got at. */
function cutOff(): string[] {
  const all = [...document.querySelectorAll<HTMLElement>('button, a[href], input, select, h1, h2')];
  return all
    .filter((el) => {
      const box = el.getBoundingClientRect();
      const style = getComputedStyle(el);
      if (box.width < 2 || box.height < 2 || style.visibility === 'hidden') return false;
      const doc = document.documentElement;
      let scrolls = doc.scrollWidth > doc.clientWidth || doc.scrollHeight > doc.clientHeight;
      for (let at = el.parentElement; at && !scrolls; at = at.parentElement) {
        scrolls = /auto|scroll/.test(
          getComputedStyle(at).overflow + getComputedStyle(at).overflowY,
        );
      }
      const outside = box.right > innerWidth + 1 || box.bottom > innerHeight + 1 || box.left < -1;
      return outside && !scrolls;
    })
    .map((el) => el.getAttribute('aria-label') ?? el.textContent);
}

/** 1024 by 700, and a window of 1280 by 800 with all twice as large. */
const SIZES: [width: number, height: number][] = [
  [1024, 700],
  [640, 400],
];

test.each(swept(VIEWS, 0.3))(
  'axe finds nothing on the view of %s, and nothing is cut off where there is little room',
  async (_, at) => {
    await open(app.page, at);
    await app.page.evaluate(source);
    const { violations } = await app.page.evaluate(() =>
      (window as unknown as { axe: { run: () => Promise<AxeResults> } }).axe.run(),
    );
    const found = violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(' ')}`);
    expect(found).toEqual([]);
    for (const [width, height] of SIZES) {
      await app.page.setViewportSize({ width, height });
      await open(app.page, at);
      expect([width, await app.page.evaluate(cutOff)]).toEqual([width, []]);
    }
  },
);

/** Presses Tab until something has the focus. */
async function tabTo(page: Page, label: RegExp): Promise<void> {
  for (let i = 0; i < 250; i++) {
    await page.keyboard.press('Tab');
    const name = await page.evaluate(() => {
      const el = document.activeElement;
      return el?.getAttribute('aria-label') ?? el?.textContent ?? '';
    });
    if (label.test(name)) return;
  }
  throw new Error(`Tab does not come to ${String(label)}`);
}

test('keys alone build a piece and render it', async () => {
  const { page } = app;
  await page.goto(app.url);
  await page.getByRole('button', { name: 'New piece', exact: true }).waitFor();
  await tabTo(page, /^New piece$/);
  await page.keyboard.press('Enter');
  await page.getByRole('group', { name: 'Begin' }).waitFor();
  await tabTo(page, /^Sphere$/);
  await page.keyboard.press('Enter');
  await pictureTells(page, (d) => Number(d.alive) > 100);
  await tabTo(page, /^Add a force$/);
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Search kinds' }).waitFor();
  await page.keyboard.type('curl');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Curl noise', exact: true }).waitFor();
  await tabTo(page, /^Frame$/);
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Length' }).waitFor();
  await tabTo(page, /^Length$/);
  await page.keyboard.press('Control+a');
  await page.keyboard.type('6');
  await page.keyboard.press('Enter');
  expect((await exportedPiece(page)).frame.length).toBe(6);
  await tabTo(page, /^Render$/);
  await page.keyboard.press('Enter');
  await page.waitForURL(/render$/);
  await tabTo(page, /^Render \d/);
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Save / }).waitFor();
  await tabTo(page, /^Save /);
  const download = page.waitForEvent('download');
  await page.keyboard.press('Enter');
  expect((await download).suggestedFilename()).toMatch(/\.(mp4|webm|zip|png)$/);
});

test('dials stand still for whoever wants less motion', async () => {
  await app.page.emulateMedia({ reducedMotion: 'reduce' });
  await app.page.goto(app.url);
  const link = app.page.getByRole('link', { name: 'Open Plankton Lantern' });
  await link.hover();
  expect(await app.page.getByTestId('moving-thumb').count()).toBe(0);
  const still = await link.evaluate((el) => getComputedStyle(el).transitionDuration);
  expect(still).toBe('0s');
});

test('more contrast gives white on black', async () => {
  await app.page.emulateMedia({ contrast: 'more' });
  await app.page.goto(app.url);
  await app.page.getByRole('heading', { name: 'Vast Swarm' }).waitFor();
  const [text, ground] = await app.page.evaluate(() => {
    const { color, backgroundColor } = getComputedStyle(document.body);
    return [color, backgroundColor];
  });
  expect([text, ground]).toEqual(['rgb(255, 255, 255)', 'rgb(0, 0, 0)']);
});

test('without shared memory and without WebGPU it plays, and says so', async () => {
  const { page } = app;
  // Browsers that lack them get pages without the headers that would let memory be shared.
  await page.route(`${app.url}/**`, async (route) => {
    const response = await route.fetch();
    const headers = { ...response.headers() };
    delete headers['cross-origin-opener-policy'];
    delete headers['cross-origin-embedder-policy'];
    await route.fulfill({ response, headers });
  });
  await page.addInitScript(() => {
    Reflect.deleteProperty(Navigator.prototype, 'gpu');
  });
  await openSmall(page, app.url);
  expect(await page.evaluate(() => [crossOriginIsolated, 'gpu' in navigator])).toEqual([
    false,
    false,
  ]);
  await pictureTells(page, (d) => Number(d.frame) > 5 && d.engine === 'cpu');
  await page.getByText('one core only').waitFor();
  const why = await page.getByText('one core only').getAttribute('title');
  expect(why).toContain('no WebGPU');
  expect(why).toContain('no memory');
});
