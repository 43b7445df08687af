import {
  decodeVideoBy,
  readStock,
  type Clip,
  type Picture,
} from '@vast-swarm/core';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ffmpegFrames } from '../src/ffmpegFrames';

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

test.each(CODINGS)(
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
