import type { Page } from 'playwright-core';
import { makePart } from '@vast-swarm/core/piece';
import { befalls, FATES, workerOf, type Fate } from './fates';
import { openApp } from './openApp';
import { openSmall, pictureTells } from './picture';

/** What loops, goes silent or takes very long: it is noticed, ended and told, and the picture comes back by itself. */

const app = openApp();

const notice = (page: Page, text: RegExp) => page.getByRole('alert').filter({ hasText: text });

test.each(Object.keys(FATES) as Fate[])(
  'an engine that %s is started again where it was',
  async (fate) => {
    const { page } = app;
    await openSmall(page, app.url, (p) => (p.frame.length = 3000));
    await pictureTells(page, (d) => Number(d.frame) > 20);
    befalls(await workerOf(page, 'engineWorker'), fate);
    await notice(
      page,
      /The engine stopped \(it gave no sign of life.* It was started again/,
    ).waitFor();
    await pictureTells(page, (d) => Number(d.frame) > 25 && d.playing === 'true');
    // An edit reaches it as before.
    await page.keyboard.press('Space');
    await pictureTells(page, (d) => d.playing === 'false');
  },
);

test('a render whose worker loops is begun anew and told; one that loops again is cancelled all the same', async () => {
  const { page } = app;
  await openSmall(page, app.url, (p) => (p.frame.length = 3000));
  await page.getByRole('button', { name: 'Render' }).click();
  await page.getByRole('button', { name: /^Render \d+ frames/ }).click();
  const progress = page.getByRole('region', { name: 'Render progress' });
  await progress.getByText(/^[1-9]\d* \/ 3000 frames/).waitFor();
  befalls(await workerOf(page, 'renderWorker'), 'loops');
  await progress.getByText(/stopped at frame \d+ .* begun anew/).waitFor();
  // The new worker is at it: there are more frames than the first one left.
  const done = async (): Promise<number> =>
    parseInt(await progress.getByText(/^\d+ \/ 3000 frames/).innerText());
  const left = await done();
  while ((await done()) <= left) await page.evaluate(() => new Promise(requestAnimationFrame));
  befalls(await workerOf(page, 'renderWorker'), 'loops');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await progress.getByText(/^Cancelled after \d+ frames/).waitFor();
});

test('a file whose reader loops is told by its name, and can be read once more', async () => {
  const { page } = app;
  await page.goto(`${app.url}/stock`);
  const file = { name: 'line.xyz', mimeType: 'text/plain', buffer: Buffer.from('0 0 0\n1 1 1\n') };
  // Its script is another one, this time.
  await page.route(
    '**/stockWorker*',
    async (route) => {
      const response = await route.fetch();
      await route.fulfill({ response, body: 'postMessage({ alive: 0 }); for (;;);' });
    },
    { times: 1 },
  );
  await page.getByLabel('Files for the stock').setInputFiles(file);
  await page.getByText(/line\.xyz: reading it failed \(it gave no sign of life/).waitFor();
  await page.getByLabel('Files for the stock').setInputFiles(file);
  await page.getByRole('listitem', { name: 'line', exact: true }).waitFor();
});

test('a change that takes minutes to make ready shows how far it is, and is stopped or undone at once', async () => {
  const { page } = app;
  const strokes = Array.from({ length: 100 }, (_, k) => ({
    points: Array.from(
      { length: 4000 },
      (_, i) => Math.round(500 + 400 * Math.sin(i * 0.37 + k)) / 1000,
    ),
    radius: 1,
    strength: 1,
  }));
  await openSmall(
    page,
    app.url,
    (p) => {
      const force = makePart('forces', 'brushed', []);
      Object.assign(force.dials, { strokes });
      force.on = false;
      force.name = 'Brushed';
      p.forces.push(force);
    },
    (d) => Number(d.alive) > 0,
  );
  const plate = page.getByRole('group', { name: 'Building' });
  const switchOn = async (): Promise<void> => {
    await page.getByRole('button', { name: 'More for Brushed' }).click();
    await page.getByRole('menuitem', { name: 'Switch on' }).click();
  };
  await switchOn();
  await plate.getByText(/^Building brushed strokes: \d+ %/).waitFor();
  await plate.getByRole('button', { name: 'Stop' }).click();
  await notice(page, /Building the change was stopped/).waitFor();
  await plate.waitFor({ state: 'detached' });
  await pictureTells(page, (d) => d.playing === 'true');
  await page.keyboard.press('Control+z');
  await switchOn();
  await plate.waitFor();
  await page.keyboard.press('Control+z');
  await plate.waitFor({ state: 'detached' });
  await pictureTells(page, (d) => d.playing === 'true' && Number(d.alive) > 0);
});
