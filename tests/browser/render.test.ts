import { execFileSync } from 'node:child_process';
import { readBy } from '../support/readBy';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decode } from 'fast-png';
import { unzipSync } from 'fflate';
import { ALL_FORMATS, BufferSource, Input } from 'mediabunny';
import type { Browser, Download, Page } from 'playwright-core';
import { compilePiece, heardBetween } from '@vast-swarm/core/plan';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import { mixOf } from '@vast-swarm/core/stock';
import { CpuEngine } from '@vast-swarm/cpu';
import { frameHash } from '../support/frameHash';
import { pieceOfEveryKind, smallPiece } from '../support/pieces';
import { swept } from '../support/sweep';
import { keepPiece } from './keepPiece';
import { callAgain, launch, startApp, startHarness, type App, type Harness } from './support';

let app: App;
let harness: Harness;
let browser: Browser;
let page: Page;

beforeAll(async () => {
  [app, harness, browser] = await Promise.all([startApp(), startHarness(), launch()]);
  page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
});
afterAll(async () => {
  app.stop();
  await browser.close();
  harness.stop();
});

describe('the CPU engine gives the same bits in the browser as in Node', () => {
  let engine: CpuEngine;
  beforeAll(async () => {
    engine = await CpuEngine.create({ threads: 2 });
    await page.goto(harness.url);
  });
  afterAll(() => {
    engine.close();
  });

  test.each(swept(pieceOfEveryKind(), 0.08))(
    '%s',
    async (_, piece) => {
      engine.setPlan(compilePiece(piece));
      engine.reset();
      while (engine.frame < 20) engine.step();
      const here = frameHash(engine.draw(128, 72).pixels);
      const there = await callAgain<string[]>(page, 'cpuHashes', piece, 20, 128, 72, [1, 2]);
      expect(there).toEqual([here, here]);
    },
    120_000,
  );
});

async function openRender(change?: Parameters<typeof smallPiece>[0]): Promise<void> {
  // A browser without the pieces of other tests, which have the same name.
  await page.context().close();
  page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await page.goto(`${await keepPiece(page, app.url, smallPiece(change))}/render`);
  await page.getByRole('heading', { name: 'Render Small' }).waitFor();
}

async function choose(label: string, option: string | RegExp): Promise<void> {
  await page.getByRole('combobox', { name: label }).click();
  await page.getByRole('option', { name: option }).click();
}

async function renderAndSave(frames: number): Promise<Download> {
  const all = `${String(frames)} ${frames === 1 ? 'frame' : 'frames'}`;
  await page.getByRole('button', { name: `Render ${all}` }).click();
  await page.getByText(new RegExp(`^${all} in`)).waitFor({ timeout: 240_000 });
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: /^Save small/ }).click(),
  ]);
  return download;
}

/** What a command makes of the piece in a zip, in the folder `out` of the one that it gives. */
async function onCommandLine(
  files: Record<string, Uint8Array>,
  command: string,
  ...args: string[]
): Promise<string> {
  const dir = await mkdtemp(join(tmpdir(), 'vast-swarm-'));
  await writeFile(join(dir, 'piece.json'), files['piece.swarm.json']!);
  const cli = join(__dirname, '../../packages/server/bin/vast-swarm.mjs');
  const all = [cli, command, join(dir, 'piece.json'), '--out', join(dir, 'out'), ...args];
  execFileSync(process.execPath, all, { stdio: 'ignore' });
  return dir;
}

test('frames from the browser are those of the command line, pixel for pixel', async () => {
  await openRender();
  await choose('As', /one zip file/);
  await page.getByRole('spinbutton', { name: 'From frame' }).fill('20');
  await page.getByRole('spinbutton', { name: 'To frame' }).fill('22');
  await choose('Oversampling', '2');
  const download = await renderAndSave(3);
  const files = unzipSync(await readFile(await download.path()));
  expect(Object.keys(files)).toEqual([
    'frame_0020.png',
    'frame_0021.png',
    'frame_0022.png',
    'piece.swarm.json',
  ]);

  const dir = await onCommandLine(files, 'render', '--frames', '20..22', '--oversample', '2');
  for (const name of await readdir(join(dir, 'out'))) {
    const there = decode(await readFile(join(dir, 'out', name))).data;
    expect(Buffer.from(decode(files[name]!).data).equals(Buffer.from(there))).toBe(true);
  }
  await rm(dir, { recursive: true });
});

const FINE = [
  ['PNG, 16 bits', 'png', 'png16', 'rgba64le'],
  ['OpenEXR, linear light', 'exr', 'exr', 'gbrapf32le'],
] as const;

test.each(swept(FINE, 0.4))(
  'frames of %s without a backdrop, by their own names, are those of the command line',
  async (title, ending, format, pixels) => {
    await openRender();
    await choose('As', /one zip file/);
    await choose('Format of frames', title);
    await page.getByRole('textbox', { name: 'Names' }).fill('net_%03d');
    await page.getByRole('spinbutton', { name: 'From frame' }).fill('30');
    await page.getByRole('spinbutton', { name: 'To frame' }).fill('31');
    await page.getByRole('spinbutton', { name: /Shutter/ }).fill('180');
    await page.getByRole('switch', { name: /Without the backdrop/ }).check();
    const download = await renderAndSave(2);
    const files = unzipSync(await readFile(await download.path()));
    const names = ['030', '031'].map((n) => `net_${n}.${ending}`);
    expect(Object.keys(files)).toEqual([...names, 'piece.swarm.json']);
    const args = ['--frames', '30..31', '--format', format, '--alpha'];
    const dir = await onCommandLine(files, 'render', ...args);
    for (const [i, name] of names.entries()) {
      await writeFile(join(dir, name), files[name]!);
      const there = readBy(join(dir, 'out', `frame_003${String(i)}.${ending}`), pixels);
      expect(readBy(join(dir, name), pixels).equals(there)).toBe(true);
    }
    await rm(dir, { recursive: true });
  },
);

test('layers of OpenEXR from the browser are those of the command line', async () => {
  await openRender();
  await choose('As', /one zip file/);
  await choose('Format of frames', /OpenEXR/);
  await page.getByRole('combobox', { name: 'Layers beside the picture' }).click();
  await page.getByRole('option', { name: 'Each swarm alone' }).click();
  await page.getByRole('option', { name: 'Depth' }).click();
  await page.keyboard.press('Escape');
  await page.getByText('Depth, Each swarm alone').waitFor();
  await page.getByRole('spinbutton', { name: 'To frame' }).fill('30');
  await page.getByRole('spinbutton', { name: 'From frame' }).fill('30');
  const files = unzipSync(await readFile(await (await renderAndSave(1)).path()));
  const args = ['--frames', '30', '--format', 'exr', '--layers', 'depth,alone'];
  const dir = await onCommandLine(files, 'render', ...args);
  await writeFile(join(dir, 'here.exr'), files['frame_0030.exr']!);
  const [here, there] = ['here.exr', 'out/frame_0030.exr'].map((name) => join(dir, name));
  const channels = (path: string): string[] =>
    execFileSync('exrheader', [path])
      .toString()
      .match(/^ {4}\S+, \d\d-bit floating/gm)!;
  expect(channels(here!).length).toBe(8);
  expect(channels(here!)).toEqual(channels(there!));
  const alone = (path: string): Buffer => readBy(path, 'gbrapf32le', '-layer', 'Motes');
  expect(alone(here!).equals(alone(there!))).toBe(true);
  await rm(dir, { recursive: true });
});

test('particles from the browser are those of the command line', async () => {
  await openRender();
  await page.getByRole('spinbutton', { name: 'To frame' }).fill('31');
  await page.getByRole('spinbutton', { name: 'From frame' }).fill('30');
  await choose('As', /PLY/);
  const zip = unzipSync(await readFile(await (await renderAndSave(2)).path()));
  await choose('As', /USD/);
  const scene = await readFile(await (await renderAndSave(2)).path(), 'utf8');
  const dir = await mkdtemp(join(tmpdir(), 'vast-swarm-'));
  await writeFile(join(dir, 'piece.json'), zip['piece.swarm.json']!);
  const cli = join(__dirname, '../../packages/server/bin/vast-swarm.mjs');
  const written = async (name: string): Promise<Buffer> => {
    const args = ['export', join(dir, 'piece.json'), '--frames', '30..31', '--out'];
    execFileSync(process.execPath, [cli, ...args, join(dir, name)], { stdio: 'ignore' });
    return readFile(join(dir, name.replace('%04d', '0031')));
  };
  expect((await written('p.usda')).toString()).toBe(scene);
  expect((await written('p_%04d.ply')).equals(Buffer.from(zip['frame_0031.ply']!))).toBe(true);
  await rm(dir, { recursive: true });
});

test('a WebM without a backdrop has what bodies cover', async () => {
  await openRender();
  await choose('As', /WebM/);
  await page.getByRole('spinbutton', { name: 'From frame' }).fill('60');
  await page.getByRole('spinbutton', { name: 'To frame' }).fill('62');
  await page.getByRole('switch', { name: /Without the backdrop/ }).check();
  const path = await (await renderAndSave(3)).path();
  const frames = readBy(path, 'rgba', '-c:v', 'libvpx-vp9');
  const cover = frames.filter((_, i) => i % 4 === 3);
  expect(cover.length).toBe(3 * 128 * 72);
  expect(cover.filter((v) => v < 8).length).toBeGreaterThan(1000);
  expect(cover.filter((v) => v > 128).length).toBeGreaterThan(100);
});

const CONTAINERS = [
  ['mp4', /MP4/, 'avc'],
  ['webm', /WebM/, 'vp9'],
] as const;

test.each(swept(CONTAINERS, 0.4))(
  'a %s file has every frame at its size and rate',
  async (ending, option, codec) => {
    await openRender();
    await choose('As', option);
    await page.getByRole('spinbutton', { name: 'To frame' }).fill('44');
    const download = await renderAndSave(45);
    expect(download.suggestedFilename()).toBe(`small.${ending}`);
    const source = new BufferSource(await readFile(await download.path()));
    const input = new Input({ formats: ALL_FORMATS, source });
    const track = (await input.getPrimaryVideoTrack())!;
    const stats = await track.computePacketStats();
    const size = [await track.getDisplayWidth(), await track.getDisplayHeight()];
    expect([await track.getCodec(), ...size, stats.packetCount]).toEqual([codec, 128, 72, 45]);
    expect(stats.averagePacketRate).toBeCloseTo(30, 0);
  },
);

/** What foreign ears hear of a file: left, 48,000 samples a second. */
function decoded(path: string): Float32Array {
  const shape = ['-f', 's16le', '-ar', '48000', '-ac', '2', '-'];
  const bytes = execFileSync('ffmpeg', ['-v', 'error', '-i', path, ...shape], {
    maxBuffer: 2 ** 28,
  });
  return Float32Array.from(
    { length: bytes.length / 4 },
    (_, i) => bytes.readInt16LE(4 * i) / 32768,
  );
}

test.each(swept(CONTAINERS, 0.4))('a %s file has the sound of its frames', async (_, option) => {
  const heard = (p: Piece): void => {
    p.stock.push({
      id: 'fog',
      name: 'Fog',
      type: 'sound',
      source: { made: 'fogSignal' },
    });
    p.sounds = [makePart('sounds', 'played', [])];
    Object.assign(p.sounds[0]!.dials, { sound: 'fog', start: 20, gain: 3 });
    // A cue begins it once more while it is heard.
    const cue = makePart('cues', 'cue', []);
    Object.assign(cue.dials, { sound: p.sounds[0]!.id, by: 'yes', at: 50 / 30 });
    p.cues = [cue];
  };
  await openRender(heard);
  await choose('As', option);
  await page.getByRole('spinbutton', { name: 'From frame' }).fill('10');
  await page.getByRole('spinbutton', { name: 'To frame' }).fill('69');
  const found = decoded(await (await renderAndSave(60)).path());
  const piece = smallPiece(heard);
  const sounds = heardBetween(piece, new Map(), 10 / 30, 70 / 30);
  const [left] = mixOf(sounds, 10 / 30, 96_000, 48_000);
  expect(Math.abs(found.length - 96_000)).toBeLessThan(3000);
  // It begins in the middle, on its frame, and is as loud as it is.
  const loudness = (of: Float32Array, from: number, to: number): number =>
    Math.sqrt(of.slice(from, to).reduce((sum, v) => sum + v * v, 0) / (to - from));
  expect(loudness(found, 0, 14_000)).toBeLessThan(1e-3);
  expect(loudness(found, 16_000, 90_000) / loudness(left, 16_000, 90_000)).toBeCloseTo(1, 1);
  // Shifted against each other they fit worse than as they are.
  const fit = (shift: number): number => {
    let sum = 0;
    for (let i = 20_000; i < 60_000; i++) sum += left[i]! * found[i + shift]!;
    return sum;
  };
  const shifts = Array.from({ length: 201 }, (_, i) => 12 * (i - 100));
  const best = shifts.reduce((a, b) => (fit(b) > fit(a) ? b : a));
  expect(Math.abs(best)).toBeLessThan(1600);
  expect(fit(best)).toBeGreaterThan(
    0.9 * left.slice(20_000, 60_000).reduce((a, v) => a + v * v, 0),
  );
});

test('a size that MP4 cannot have is told before the start; a cancelled render says what is left', async () => {
  await openRender();
  await page.getByRole('spinbutton', { name: 'Width' }).fill('127');
  await page.getByText('MP4 needs an even number').waitFor();
  expect(await page.getByRole('button', { name: /^Render 90/ }).isDisabled()).toBe(true);
  await page.getByRole('spinbutton', { name: 'Width' }).fill('1920');
  await page.getByRole('spinbutton', { name: 'Height' }).fill('1080');
  await page.getByRole('button', { name: /^Render 90/ }).click();
  await page.getByText(/\/ 90 frames/).waitFor();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await page.getByText(/Cancelled after \d+ frames/).waitFor();
  expect(await page.getByRole('button', { name: /^Render 90/ }).isEnabled()).toBe(true);
});
