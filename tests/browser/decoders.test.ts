import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from 'playwright-core';
import { readStock, type Sound } from '@vast-swarm/core';
import { bytesHash } from '../support/frameHash';
import { call, launch, startHarness, type Harness } from './support';

/** Sounds have the same samples in the browser as on the command line, to the last bit. */

let harness: Harness;
let browser: Browser;
let page: Page;
let folder: string;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'decoders-'));
  [harness, browser] = await Promise.all([startHarness(), launch()]);
  page = await browser.newPage();
  await page.goto(harness.url);
}, 45_000);
afterAll(async () => {
  await browser.close();
  harness.stop();
  rmSync(folder, { recursive: true });
});

const SOUND = 'aevalsrc=exprs=0.4*sin(2*PI*(200+300*t)*t)|0.3*sin(2*PI*900*t)*random(0):d=0.8:s=';

test.each([
  ['a.wav', 44_100, []],
  ['deep.wav', 96_000, ['-c:a', 'pcm_s24le']],
  ['a.flac', 48_000, []],
  ['a.ogg', 44_100, ['-c:a', 'libvorbis']],
  ['a.opus', 48_000, ['-c:a', 'libopus']],
  ['a.mp3', 44_100, ['-c:a', 'libmp3lame']],
  ['opus.webm', 48_000, ['-c:a', 'libopus']],
  ['vorbis.webm', 44_100, ['-c:a', 'libvorbis']],
  ['mp3.mp4', 44_100, ['-c:a', 'libmp3lame']],
] as const)('%s', async (name, rate, options) => {
  const file = join(folder, name);
  const input = ['-f', 'lavfi', '-i', SOUND + String(rate)];
  execFileSync('ffmpeg', ['-loglevel', 'error', '-y', ...input, ...options, file]);
  const bytes = readFileSync(file);
  const sound = (await readStock(name, new Uint8Array(bytes))) as Sound;
  const here = [sound.rate, ...sound.channels.map((c) => bytesHash(c))].join();
  expect(sound.channels[0]!.some((v) => Math.abs(v) > 5000)).toBe(true);
  expect(await call(page, 'soundHash', name, bytes.toString('base64'))).toBe(here);
});
