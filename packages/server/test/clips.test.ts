import {
  decodeVideoBy,
  movingClip,
  readStock,
  StockError,
  type Clip,
  type Picture,
} from '@vast-swarm/core/stock';
import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeChoice, makePart, pieceText } from '@vast-swarm/core/piece';
import { ffmpegFrames } from '../src/ffmpegFrames';
import { hashOf } from '../src/hashOf';
import { vastSwarm } from '../../../tests/support/commandLine';
import { smallPiece } from '../../../tests/support/pieces';
import { swept } from '../../../tests/support/sweep';

/** Videos made by Debian's ffmpeg, as they are read on the command line. */

decodeVideoBy(ffmpegFrames);
const folder = mkdtempSync(join(tmpdir(), 'vast-swarm-clips-'));
afterAll(() => {
  rmSync(folder, { recursive: true });
});

function ffmpeg(...args: string[]): void {
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...args]);
}

/** A clip of which each picture has its number in it: grey, and darker or brighter than its neighbours. */
async function clipOf(name: string, ...coding: string[]): Promise<Clip> {
  const file = join(folder, name);
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=96x64:r=30:d=2', ...coding, file);
  return (await readStock(name, readFileSync(file))) as Clip;
}

/** Pictures as ffmpeg itself makes colours of them. */
function foreign(name: string, width: number, height: number, matrix: string): Buffer[] {
  const scale = `scale=in_color_matrix=${matrix}:sws_flags=neighbor+full_chroma_int+accurate_rnd`;
  const shape = ['-vf', scale, '-f', 'rawvideo', '-pix_fmt', 'rgba', '-vsync', 'passthrough', '-'];
  const bytes = execFileSync('ffmpeg', ['-v', 'error', '-i', join(folder, name), ...shape], {
    maxBuffer: 2 ** 28,
  });
  const size = 4 * width * height;
  return Array.from({ length: bytes.length / size }, (_, i) =>
    bytes.subarray(i * size, (i + 1) * size),
  );
}

function furthest(a: Picture['pixels'], b: Uint8Array): number {
  let most = 0;
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i]! - b[i]!));
  return most;
}

const CODINGS: [string, string[]][] = [
  ['h264.mp4', ['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-g', '24']],
  ['vp8.webm', ['-c:v', 'libvpx', '-b:v', '1M', '-pix_fmt', 'yuv420p']],
  ['vp9.webm', ['-c:v', 'libvpx-vp9', '-b:v', '1M', '-pix_fmt', 'yuv420p']],
  ['av1.mp4', ['-c:v', 'libaom-av1', '-cpu-used', '8', '-b:v', '1M', '-pix_fmt', 'yuv420p']],
];

test.each(swept(CODINGS, 0.5))(
  '%s: every picture, within a step of ffmpeg, in any order',
  async (name, coding) => {
    const clip = await clipOf(name, ...coding);
    expect([clip.type, clip.width, clip.height, clip.times.length]).toEqual(['clip', 96, 64, 61]);
    expect(clip.times.at(-1)).toBeCloseTo(2, 2);
    const wanted = foreign(name, 96, 64, 'bt601');
    expect(wanted).toHaveLength(60);
    let at = 7;
    for (const index of [0, 1, 2, 59, ...Array.from({ length: 12 }, () => (at = (at * 37) % 60))]) {
      const { pixels } = await clip.picture(index);
      expect([index, furthest(pixels, wanted[index]!) <= 1]).toEqual([index, true]);
    }
  },
);

test('pictures at uneven times are there when the file has them', async () => {
  const file = join(folder, 'uneven.mp4');
  // Every third picture stays out.
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=64x48:r=30:d=1',
    '-vf',
    "select='not(eq(mod(n,3),1))'",
    '-vsync',
    'vfr',
    '-c:v',
    'libx264',
    '-pix_fmt',
    'yuv420p',
    file,
  );
  const clip = (await readStock('uneven.mp4', readFileSync(file))) as Clip;
  const moving = movingClip(clip, 'uneven', 30, {
    start: 0,
    speed: 1,
    from: 0,
    to: 0,
    ends: 'hold',
    mixes: false,
  });
  const shown = Array.from({ length: 30 }, (_, frame) => moving.stateAt(frame));
  // Of 0 2 3 5 6 8 … what was last at each frame.
  const stamps = Array.from({ length: 30 }, (_, n) => n).filter((n) => n % 3 !== 1);
  const wanted = shown.map((_, n) => stamps.filter((s) => s <= n).length - 1);
  expect(shown).toEqual(wanted);
});

test('a clip that lies on its side is shown upright', async () => {
  const [flat, turned] = [join(folder, 'flat.mp4'), join(folder, 'turned.mp4')];
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=64x32:r=10:d=0.5', '-pix_fmt', 'yuv420p', flat);
  ffmpeg('-i', flat, '-c', 'copy', '-metadata:s:v:0', 'rotate=90', turned);
  const [was, is] = await Promise.all(
    [flat, turned].map(async (file) => (await readStock(file, readFileSync(file))) as Clip),
  );
  expect([is!.width, is!.height]).toEqual([32, 64]);
  const [a, b] = [(await was!.picture(2)).pixels, (await is!.picture(2)).pixels];
  const at = (pixels: Picture['pixels'], width: number, x: number, y: number) => [
    ...pixels.slice(4 * (y * width + x), 4 * (y * width + x) + 3),
  ];
  // A quarter turn, one way or the other.
  const clockwise = at(a, 64, 3, 5).join() === at(b, 32, 31 - 5, 3).join();
  const back = at(a, 64, 3, 5).join() === at(b, 32, 5, 63 - 3).join();
  expect(clockwise || back).toBe(true);
});

test.each([
  ['of odd size', ['-f', 'lavfi', '-i', 'testsrc2=s=63x35:r=10:d=0.5', '-c:v', 'libvpx-vp9']],
  ['of one picture', ['-f', 'lavfi', '-i', 'testsrc2=s=64x36:r=10:d=0.1', '-c:v', 'libvpx-vp9']],
])('a clip %s', async (_, args) => {
  const file = join(folder, 'odd.webm');
  ffmpeg(...args, '-pix_fmt', 'yuv420p', file);
  const clip = (await readStock('odd.webm', readFileSync(file))) as Clip;
  const { width, height, pixels } = await clip.picture(clip.times.length - 2);
  expect([width, height, pixels.length]).toEqual([clip.width, clip.height, 4 * width * height]);
  expect(clip.times.at(-1)).toBeGreaterThan(0);
});

test('a file that is cut short shows what is there, and its last picture after that', async () => {
  await clipOf('whole.webm', '-c:v', 'libvpx', '-b:v', '2M', '-pix_fmt', 'yuv420p', '-g', '10');
  const bytes = readFileSync(join(folder, 'whole.webm'));
  const clip = (await readStock('cut.webm', bytes.subarray(0, bytes.length / 2))) as Clip;
  const count = clip.times.length - 1;
  expect(count).toBeGreaterThan(5);
  expect(count).toBeLessThan(60);
  expect((await clip.picture(count - 1)).width).toBe(96);
});

test.each<[string, string[], RegExp]>([
  ['ten.mp4', ['-c:v', 'libx264', '-pix_fmt', 'yuv420p10le'], /coded as 420p10.*8 bits and 4:2:0/],
  ['full.mp4', ['-c:v', 'libx264', '-pix_fmt', 'yuv444p'], /coded as 444/],
])('%s is told by name, with what to bring', async (name, coding, message) => {
  await expect(clipOf(name, ...coding)).rejects.toThrow(message);
});

test('a video without a picture is a sound; one with both is a clip with a sound', async () => {
  const [only, both] = [join(folder, 'only.mp4'), join(folder, 'both.webm')];
  ffmpeg('-f', 'lavfi', '-i', 'sine=440:d=1', '-c:a', 'flac', '-strict', '-2', only);
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'sine=440:d=1',
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=64x48:r=10:d=1',
    '-c:v',
    'libvpx',
    '-c:a',
    'libopus',
    both,
  );
  expect((await readStock('only.mp4', readFileSync(only))).type).toBe('sound');
  const clip = (await readStock('both.webm', readFileSync(both))) as Clip;
  expect([clip.type, clip.sound?.rate]).toEqual(['clip', 48_000]);
});

test.each([
  ['empty.mp4', Buffer.alloc(0), /the file is empty/],
  ['noise.webm', Buffer.from(Array.from({ length: 900 }, (_, i) => (i * 89) % 251)), /noise\.webm/],
])('%s is refused by name', async (name, bytes, message) => {
  await expect(readStock(name, bytes)).rejects.toThrow(message);
  await expect(readStock(name, bytes)).rejects.toThrow(StockError);
});

test('a film whose sound nobody reads here is its pictures, and ends nothing', async () => {
  // Most footage has such a sound; the refusal of it comes before the pictures are there.
  ffmpeg(
    ...['-f', 'lavfi', '-i', 'testsrc2=s=64x48:r=30:d=0.5', '-f', 'lavfi', '-i', 'sine=d=0.5'],
    ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac', join(folder, 'film.mp4')],
  );
  const refusals: unknown[] = [];
  const unheard = (error: unknown): void => void refusals.push(error);
  process.on('unhandledRejection', unheard);
  const clip = (await readStock('film.mp4', readFileSync(join(folder, 'film.mp4')))) as Clip;
  expect([clip.type, clip.width, clip.height]).toEqual(['clip', 64, 48]);
  expect((await clip.picture(0)).pixels).toHaveLength(64 * 48 * 4);
  const hash = hashOf(readFileSync(join(folder, 'film.mp4')));
  const piece = smallPiece((p) => {
    p.frame.length = 2;
    p.stock.push({ id: 'film', name: 'Film', type: 'clip', source: { file: 'film.mp4', hash } });
    p.pictures = [makePart('pictures', 'played', [])];
    p.pictures[0]!.dials.clip = 'film';
    p.swarms[0]!.emitter = makeChoice('emitters', 'picture');
    p.swarms[0]!.emitter.dials.picture = p.pictures[0]!.id;
  });
  const file = join(folder, 'piece.json');
  mkdirSync(join(folder, 'stock'));
  copyFileSync(join(folder, 'film.mp4'), join(folder, 'stock/film.mp4'));
  writeFileSync(file, pieceText(piece));
  const out = ['--size', '64x36', '--out', join(folder, 'out')];
  const run = await vastSwarm('render', file, ...out);
  expect(run.code).toBe(0);
  expect(run.err).toMatch(/note: The sound of Film is not heard: .*aac/i);
  process.off('unhandledRejection', unheard);
  expect(refusals).toEqual([]);
});
