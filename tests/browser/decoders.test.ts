import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from 'playwright-core';
import { decodeVideoBy, readStock, type Clip, type Sound } from '@vast-swarm/core/stock';
import { ffmpegFrames } from '../../packages/server/src/ffmpegFrames';
import { bytesHash } from '../support/frameHash';
import { call, launch, startHarness, type Harness } from './support';

/** Sounds and clips are the same in the browser as on the command line, to the last bit. */

decodeVideoBy(ffmpegFrames);

let harness: Harness;
let browser: Browser;
let page: Page;
let folder: string;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'decoders-'));
  [harness, browser] = await Promise.all([startHarness(), launch()]);
  page = await browser.newPage();
  await page.goto(harness.url);
});
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

const MOVING = 'testsrc2=s=130x74:r=25:d=2,hue=h=40*t';
const EVEN = ['-pix_fmt', 'yuv420p', '-g', '20'];

test.each([
  ['h264.mp4', ['-c:v', 'libx264', ...EVEN]],
  ['marked.mp4', ['-c:v', 'libx264', ...EVEN, '-colorspace', 'bt709', '-color_range', 'pc']],
  ['vp8.webm', ['-c:v', 'libvpx', '-b:v', '1M', ...EVEN]],
  ['vp9.webm', ['-c:v', 'libvpx-vp9', '-b:v', '1M', ...EVEN]],
  ['av1.mp4', ['-c:v', 'libaom-av1', '-cpu-used', '8', '-b:v', '1M', ...EVEN]],
  ['av1.webm', ['-c:v', 'libaom-av1', '-cpu-used', '8', '-b:v', '1M', ...EVEN]],
  ['moving.gif', []],
  ['moving.apng', []],
])(
  '%s',
  async (name, options) => {
    const file = join(folder, name);
    const input = ['-f', 'lavfi', '-i', MOVING];
    execFileSync('ffmpeg', ['-loglevel', 'error', '-y', ...input, ...options, file]);
    const bytes = readFileSync(file);
    const clip = (await readStock(name, new Uint8Array(bytes))) as Clip;
    // Forwards, back over key frames, and far ahead.
    const indices = [0, 1, 2, 3, 30, 12, 13, 49, 5, 21];
    const here = [[clip.width, clip.height, clip.times.length].join()];
    for (const index of indices) here.push(bytesHash((await clip.picture(index)).pixels));
    expect(new Set(here).size).toBeGreaterThan(8);
    const there = await call(page, 'clipHashes', name, bytes.toString('base64'), indices);
    expect(there).toEqual(here);
  },
  60_000,
);

test('what drives a piece as a camera sees it is what its take has, picture for picture', async () => {
  // Over a key frame, with pictures that stayed for several frames.
  const begins = Array.from({ length: 70 }, (_, i) => i + Math.floor(i / 3));
  const coded = await call(page, 'codedHashes', 71, begins, 24);
  const { hashes, file } = coded as { hashes: string[]; file: string };
  const bytes = Uint8Array.from(Buffer.from(file, 'base64'));
  const clip = (await readStock('take.webm', bytes)) as Clip;
  expect(clip.times.length).toBe(71);
  begins.forEach((begin, i) => {
    // WebM counts in thousandths of a second.
    expect(Math.abs(clip.times[i]! - begin / 24)).toBeLessThan(1e-3);
  });
  const here: string[] = [];
  for (let i = 0; i < 70; i++) here.push(bytesHash((await clip.picture(i)).pixels));
  expect(here).toEqual(hashes.slice(0, 70));
  expect(new Set(here).size).toBe(70);
});
