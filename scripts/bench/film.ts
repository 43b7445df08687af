import { made, type Clip } from '@vast-swarm/core/stock';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { report } from './report';

/** The show's ferries as a film: H.264, 960 × 540, a key frame a second. */
async function ferryFilm(): Promise<Buffer> {
  const clip = made('ferry') as Clip;
  const count = clip.times.length - 1;
  const frames: Uint8Array[] = [];
  for (let i = 0; i < count; i++) frames.push(Uint8Array.from((await clip.picture(i)).pixels));
  const folder = mkdtempSync(join(tmpdir(), 'vast-swarm-bench-'));
  const size = `${String(clip.width)}x${String(clip.height)}`;
  execFileSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgba',
      '-s',
      size,
      '-r',
      '30',
      '-i',
      '-',
      '-vf',
      'scale=960:540',
      '-c:v',
      'libx264',
      '-pix_fmt',
      'yuv420p',
      '-g',
      '30',
      join(folder, 'film.mp4'),
    ],
    { input: Buffer.concat(frames) },
  );
  const film = readFileSync(join(folder, 'film.mp4'));
  rmSync(folder, { recursive: true });
  return film;
}

/** Frames a second of the open piece at a small preview: the median of eight seconds. */
async function rate(page: Page): Promise<number> {
  const picture = page.getByTestId('picture');
  await page.getByRole('combobox', { name: 'Preview size' }).click();
  await page.getByRole('option', { name: '216 lines' }).click();
  const rates: number[] = [];
  for (let i = 0; i < 11; i++) {
    await page.waitForTimeout(1000);
    rates.push(Number(await picture.getAttribute('data-fps')));
  }
  return rates.slice(3).sort((a, b) => a - b)[4]!;
}

/** What reading a film ahead costs: the same piece with its own made clip, and with that clip as a film. */
export async function film(page: Page, url: string): Promise<void> {
  await page.goto(`${url}/piece/ferry-windows`);
  const own = await rate(page);
  await page
    .getByRole('navigation', { name: 'Line-up' })
    .getByRole('button', { name: 'Ferries', exact: true })
    .click();
  const buffer = await ferryFilm();
  const file = { name: 'film.mp4', mimeType: 'video/mp4', buffer };
  await page.getByLabel('File for Clip').setInputFiles(file);
  await page.getByRole('combobox', { name: 'Clip' }).getByText('film').waitFor();
  // From the file, and with nothing left to be made right.
  await page.reload();
  report('ferry-windows with a film of 960x540 read ahead', await rate(page), 'fps', own);
}
