import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decode } from 'fast-png';
import { unzipSync } from 'fflate';
import { compilePiece } from '@vast-swarm/core/plan';
import { decodeVideoBy, type Clip } from '@vast-swarm/core/stock';
import { CpuEngine } from '@vast-swarm/cpu';
import { ffmpegFrames } from '../../packages/server/src/ffmpegFrames';
import { recordsAgain, exported, refusesFirst, unplug } from './liveInput';
import { openApp } from './openApp';
import { lasting, openSmall, pictureTells } from './picture';

const folder = mkdtempSync(join(tmpdir(), 'seen-'));
const seen = join(folder, 'seen.y4m');
// A white square that goes to the right over black: where it is tells when a picture was seen.
execFileSync('ffmpeg', [
  '-v',
  'error',
  '-y',
  '-f',
  'lavfi',
  '-i',
  'color=black:s=320x180:r=30:d=4',
  '-f',
  'lavfi',
  '-i',
  'color=white:s=40x40:r=30:d=4',
  '-filter_complex',
  'overlay=x=n*2:y=70',
  '-pix_fmt',
  'yuv420p',
  seen,
]);
afterAll(() => {
  rmSync(folder, { recursive: true });
});
decodeVideoBy(ffmpegFrames);

const app = openApp({ sees: seen });
const button = (name: string) => app.page.getByRole('button', { name, exact: true });
const lineUp = () => app.page.getByRole('navigation', { name: 'Line-up' });

async function addCamera(): Promise<void> {
  await button('Add a clip, camera or made map').click();
  await app.page.getByRole('menuitem', { name: 'Live camera' }).first().click();
  await app.page.locator('.MuiPopover-root').waitFor({ state: 'detached' });
}

/** Pauses at the first frame: a recording ends with the piece, which is short. */
async function rewind(): Promise<void> {
  await button('Pause').click();
  await app.page.keyboard.press('Home');
  await pictureTells(app.page, (d) => d.frame === '0');
}

async function choose(label: string, option: string): Promise<void> {
  await app.page.getByRole('combobox', { name: label, exact: true }).click();
  await app.page.getByRole('option', { name: option, exact: true }).click();
}

/** The middle of what is bright in a picture along its width, 0 to 1; NaN where nothing is. */
function brightAt({ width, height, pixels }: Awaited<ReturnType<Clip['picture']>>): number {
  let [sum, count] = [0, 0];
  for (let at = 0; at < width * height; at++) {
    if (pixels[4 * at]! < 128) continue;
    sum += (at % width) / width;
    count += 1;
  }
  return sum / count;
}

test('a camera drives a piece while it is recorded, and its take gives the same pixels', async () => {
  const { page } = app;
  await openSmall(page, app.url, lasting);
  await choose('Preview size', '216 lines');
  await addCamera();
  await page.getByText('Nothing was recorded yet.').waitFor();
  await lineUp().getByRole('button', { name: 'Motes', exact: true }).click();
  await choose('Emitter kind', 'Picture');
  await choose('Picture', 'Live camera');
  await lineUp().getByRole('button', { name: 'Live camera', exact: true }).click();

  // It is seen before anything is recorded.
  await button('Open it').click();
  await page.getByRole('img', { name: 'What the camera sees' }).locator('video').waitFor();
  await rewind();
  await button('Record').click();
  await page.getByText('It drives the piece, and is recorded.').waitFor();
  await pictureTells(page, (d) => Number(d.frame) >= 40);
  const alive = await page.getByTestId('picture').evaluate((el) => Number(el.dataset.alive));
  expect(alive).toBeGreaterThan(100);
  await button('Stop').click();
  await page.getByRole('combobox', { name: 'Take' }).getByText('Live camera, take').waitFor();
  await button('Record again').waitFor();

  const { piece, files } = await exported<Clip>(page);
  const { start, take } = piece.pictures[0]!.dials as { start: number; take: string };
  const entry = piece.stock.find((s) => s.id === take)!;
  const clip = files.get((entry.source as { hash: string }).hash)!;
  expect([clip.width, clip.height]).toEqual([320, 180]);
  expect(start).toBeGreaterThanOrEqual(0);
  expect(clip.times.length).toBeGreaterThan(5);
  // The square goes on from picture to picture, save where the file begins anew.
  const places: number[] = [];
  for (let i = 0; i < clip.times.length - 1; i++) places.push(brightAt(await clip.picture(i)));
  const steps = places.slice(1).map((x, i) => x - places[i]!);
  expect(places.every((x) => x > 0 && x < 1)).toBe(true);
  expect(steps.filter((s) => s > 0).length).toBeGreaterThan(0.8 * steps.length);

  // Rendered in the browser and here.
  await button('Render').click();
  await page.getByRole('heading', { name: 'Render Small' }).waitFor();
  await page.getByRole('spinbutton', { name: 'From frame' }).fill('30');
  await page.getByRole('spinbutton', { name: 'To frame' }).fill('31');
  await choose('As', 'Frames, one zip file');
  await button('Render 2 frames').click();
  await page.getByText(/^2 frames in/).waitFor();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: /^Save small/ }).click(),
  ]);
  const rendered = unzipSync(await readFile(await download.path()));
  const there = decode(rendered['frame_0030.png']!);
  const engine = await CpuEngine.create({ threads: 2 });
  engine.setPlan(compilePiece(piece, { files }));
  while (engine.frame < 30) {
    await engine.ready();
    engine.step();
  }
  await engine.ready();
  const { pixels } = engine.draw(there.width, there.height);
  engine.close();
  const here = pixels.filter((_, i) => there.channels === 4 || i % 4 !== 3);
  expect(here.some((v, i) => i % there.channels === 0 && v > 60)).toBe(true);
  expect(Buffer.from(there.data).equals(Buffer.from(here))).toBe(true);
});

test('made-up clips stand in for a camera; another take counts from then on', async () => {
  const { page } = app;
  await openSmall(page, app.url, lasting);
  await addCamera();
  await choose('Device', 'Stand-in: Dancer');
  await rewind();
  await button('Record').click();
  await page.getByText('It drives the piece, and is recorded.').waitFor();
  await page.getByRole('img', { name: 'What the camera sees' }).locator('canvas').waitFor();
  await pictureTells(page, (d) => Number(d.frame) > 3);
  await button('Stop').click();
  await page.getByRole('combobox', { name: 'Take' }).getByText('Live camera, take').waitFor();
  await recordsAgain(page);
});

test('a camera that is refused or pulled out says so, and what was recorded is kept', async () => {
  const { page } = app;
  await refusesFirst(page);
  await openSmall(page, app.url, lasting);
  await addCamera();
  await button('Record').click();
  await page.getByRole('alert').getByText('The browser does not let the page see').waitFor();
  await rewind();
  await button('Record').click();
  await page.getByText('It drives the piece, and is recorded.').waitFor();
  await pictureTells(page, (d) => Number(d.frame) > 5);
  await unplug(page);
  await page.getByRole('alert').getByText('it was unplugged').waitFor();
  await page.getByRole('combobox', { name: 'Take' }).getByText('Live camera, take').waitFor();
});
