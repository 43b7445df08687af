import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { readFile, readdir, writeFile, mkdir } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decode } from 'fast-png';
import { unzipSync } from 'fflate';
import { openApp } from './openApp';
import { openSmall, pictureTells } from './picture';

const app = openApp();
const lineUp = () => app.page.getByRole('navigation', { name: 'Line-up' });
const dial = (name: string) => app.page.getByRole('group', { name, exact: true });

const folder = mkdtempSync(join(tmpdir(), 'vast-swarm-clips-'));
afterAll(() => {
  rmSync(folder, { recursive: true });
});

/** A film of colours that move, as a file with a sound. */
function film(name: string): { name: string; mimeType: string; buffer: Buffer } {
  const file = join(folder, name);
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-y',
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=160x90:r=30:d=2',
    '-f',
    'lavfi',
    '-i',
    'sine=440:d=2',
    '-c:v',
    'libvpx-vp9',
    '-b:v',
    '600k',
    '-pix_fmt',
    'yuv420p',
    '-c:a',
    'libopus',
    file,
  ]);
  return { name, mimeType: 'video/webm', buffer: readFileSync(file) };
}

async function choose(label: string, option: string | RegExp): Promise<void> {
  await app.page.getByRole('combobox', { name: label, exact: true }).click();
  await app.page.getByRole('option', { name: option, exact: true }).click();
}
const chosen = (label: string) => app.page.getByRole('combobox', { name: label, exact: true });

test('a clip is taken from a file, particles are born from it, and the command line renders the same', async () => {
  const { page } = app;
  await openSmall(page, app.url);
  await choose('Emitter kind', 'Picture');
  await page.getByLabel('File for Picture').setInputFiles(film('film.webm'));
  // It plays in a part of its own, seen in the line-up, on the strip and in the dial.
  await chosen('Picture').getByText('film').waitFor();
  await lineUp().getByRole('button', { name: 'film', exact: true }).waitFor();
  const row = page.getByRole('slider', { name: 'film begins at' });
  await row.press('ArrowRight');
  await row.and(page.locator('[aria-valuenow="1"]')).waitFor();
  await page.getByRole('button', { name: 'Undo' }).click();
  await row.and(page.locator('[aria-valuenow="0"]')).waitFor();
  await pictureTells(page, (d) => Number(d.alive) > 100);
  await lineUp().getByRole('button', { name: 'film', exact: true }).click();
  await page.getByRole('img', { name: 'film now' }).waitFor();

  // After a reload all of it is there.
  await page.reload();
  await pictureTells(page, (d) => Number(d.alive) > 100);
  await lineUp().getByRole('button', { name: 'film', exact: true }).waitFor();

  await page.getByRole('button', { name: 'Render' }).click();
  await page.getByRole('heading', { name: 'Render Small' }).waitFor();
  await page.getByRole('spinbutton', { name: 'From frame' }).fill('40');
  await page.getByRole('spinbutton', { name: 'To frame' }).fill('41');
  await choose('As', /one zip file/);
  await page.getByRole('button', { name: 'Render 2 frames' }).click();
  await page.getByText(/^2 frames in/).waitFor();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: /^Save small/ }).click(),
  ]);
  const files = unzipSync(await readFile(await download.path()));

  const piece = join(folder, 'piece.json');
  await writeFile(piece, files['piece.swarm.json']!);
  await mkdir(join(folder, 'stock'), { recursive: true });
  const { source } = (
    JSON.parse(await readFile(piece, 'utf8')) as { stock: { source: { file?: string } }[] }
  ).stock.find((s) => s.source.file)!;
  await writeFile(join(folder, 'stock', source.file!), readFileSync(join(folder, 'film.webm')));
  const cli = join(__dirname, '../../packages/server/bin/vast-swarm.mjs');
  const out = join(folder, 'out');
  const args = ['render', piece, '--frames', '40..41', '--out', out];
  execFileSync(process.execPath, [cli, ...args], { stdio: 'ignore' });
  const there = await readdir(out);
  expect(there.sort()).toEqual(['frame_0040.png', 'frame_0041.png']);
  for (const name of there) {
    const [a, b] = [decode(files[name]!).data, decode(await readFile(join(out, name))).data];
    expect(a.some((v) => v > 100)).toBe(true);
    expect(Buffer.from(a).equals(Buffer.from(b))).toBe(true);
  }
});

test('a dial is looked up in a made map that is chosen for it, and lets go of one that is removed', async () => {
  const { page } = app;
  await openSmall(page, app.url);
  await page.getByRole('button', { name: 'Add a clip, camera or made map' }).click();
  await page.getByRole('menuitem', { name: 'Noise map' }).first().click();
  await page.getByRole('img', { name: 'Noise map now' }).waitFor();
  await lineUp().getByRole('button', { name: 'Motes', exact: true }).click();
  await dial('Size')
    .getByRole('button', { name: /what fills it/ })
    .click();
  await page
    .getByRole('menuitem', { name: 'Map', exact: false })
    .filter({ hasText: 'Looked up' })
    .click();
  await chosen('Size, map').getByText('Noise map').waitFor();
  await choose('Size, looked up by', 'Place on a plane');
  await page.getByRole('textbox', { name: 'Size, width' }).waitFor();
  // Its plane is taken hold of in the picture, and its limits where they stand on the histogram.
  const handle = page.getByRole('slider', { name: 'Size map handle', exact: true });
  await handle.press('ArrowRight');
  await handle.and(page.locator('[aria-valuetext^="0."]')).waitFor();
  const limit = page.getByRole('slider', { name: /Size, least that counts, on the histogram/ });
  await limit.press('Shift+ArrowRight');
  await limit.and(page.locator('[aria-valuenow="0.1"]')).waitFor();
  const least = page.getByRole('textbox', { name: 'Size, least that counts' });
  await expect(least.inputValue()).resolves.toBe('0.1');
  await choose('Size, what is read', 'Saturation');
  await chosen('Size, what is read').getByText('Saturation').waitFor();

  await lineUp().getByRole('button', { name: 'Noise map', exact: true }).press('Delete');
  await chosen('Size, map').getByText('Choose a map').waitFor();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await chosen('Size, map').getByText('Noise map').waitFor();
});

test('a file that is no clip is refused in words, and nothing is lost', async () => {
  const { page } = app;
  await page.goto(`${app.url}/stock`);
  const buffer = Buffer.from(Array.from({ length: 500 }, (_, i) => (i * 31) % 256));
  await page
    .getByLabel('Files for the stock')
    .setInputFiles({ name: 'broken.mp4', mimeType: 'video/mp4', buffer });
  await page
    .getByRole('alert')
    .getByText(/broken\.mp4: it cannot be read as a clip/)
    .waitFor();
});

test('copies differ where they shall, by another draw each time, and run on along one surface', async () => {
  const { page } = app;
  await openSmall(page, app.url);
  await page.getByRole('button', { name: 'Add copies' }).click();
  const where = page.getByRole('group', { name: 'What copies differ in' });
  await where.getByRole('button', { name: 'Colour' }).click();
  await where.getByRole('button', { name: 'Turn' }).click();
  const seed = dial('Their seed').getByRole('textbox');
  await expect(seed.inputValue()).resolves.toBe('1');
  await page.getByRole('button', { name: 'Draw again' }).click();
  await page.waitForFunction(
    (el) => (el as HTMLInputElement).value !== '1',
    await seed.elementHandle(),
  );
  await choose('Surface of the copies', 'On around it');
  await chosen('Surface of the copies').getByText('On around it').waitFor();
  // All of it is in the piece's file, and comes back.
  await page.reload();
  await pictureTells(page, (d) => Number(d.alive) > 100);
  await where.getByRole('button', { name: 'Turn', pressed: true }).waitFor();
  await chosen('Surface of the copies').getByText('On around it').waitFor();
  await where.getByRole('button', { name: 'Turn' }).click();
  await where.getByRole('button', { name: 'Colour' }).click();
  await seed.waitFor({ state: 'detached' });
});

test('the motion of a clip is seen over the picture, and the clip is trimmed on the strip', async () => {
  const { page } = app;
  await openSmall(page, app.url);
  await choose('Emitter kind', 'Picture');
  await page.getByLabel('File for Picture').setInputFiles(film('film.webm'));
  await chosen('Picture').getByText('film').waitFor();
  await page.getByRole('button', { name: 'Add a force' }).click();
  await page.getByRole('menuitem', { name: 'Clip flow' }).first().click();
  await choose('Clip', 'film');
  await page.getByRole('img', { name: 'Motion that is seen' }).waitFor();
  const end = page.getByRole('slider', { name: 'film, trimmed at its end' });
  await end.press('Shift+ArrowLeft');
  await end.and(page.locator('[aria-valuetext="1.67 s"]')).waitFor();
  await lineUp().getByRole('button', { name: 'film', exact: true }).click();
  await expect(dial('To').getByRole('textbox').inputValue()).resolves.toBe('1.667');
  await page.getByRole('button', { name: 'Undo: Trim' }).click();
  await end.and(page.locator('[aria-valuetext="2.00 s"]')).waitFor();
});

test('a clip for which there is no room is told, and what was there stays', async () => {
  const { page } = app;
  await page.addInitScript(() => {
    const store = IDBObjectStore.prototype as unknown as {
      put: (this: IDBObjectStore, ...args: unknown[]) => IDBRequest;
    };
    const { put } = store;
    store.put = function (...args) {
      if (this.name === 'stock') throw new DOMException('no room', 'QuotaExceededError');
      return put.apply(this, args);
    };
  });
  await openSmall(page, app.url);
  await choose('Emitter kind', 'Picture');
  await page.getByLabel('File for Picture').setInputFiles(film('film.webm'));
  await page
    .getByRole('alert')
    .getByText(/no room|storage/i)
    .waitFor();
  await chosen('Picture').getByText('None').waitFor();
});
