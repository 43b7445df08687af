import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { zipSync, zlibSync } from 'fflate';
import { readStock, type Clip, type Picture } from '@vast-swarm/core/stock';
import { refusal } from '../../../tests/support/refusal';

/** Pictures that another program has made, against what it reads in them; and such as nobody should make. */

let dir: string;
beforeAll(() => {
  dir = mkdtempSync(join(tmpdir(), 'vast-swarm-'));
});
afterAll(() => {
  rmSync(dir, { recursive: true });
});

const ffmpeg = (...args: string[]): Buffer =>
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { maxBuffer: 2 ** 27 });

/** What ffmpeg reads in a file: all its pictures as red, green, blue and alpha. */
function read(file: string, input: string[] = []): Uint8Array {
  const out = ['-vsync', 'passthrough', '-pix_fmt', 'rgba', '-f', 'rawvideo', 'pipe:1'];
  return new Uint8Array(ffmpeg(...input, '-i', file, ...out));
}

/** By how much two pictures differ at the most. */
function farthest(a: ArrayLike<number>, b: ArrayLike<number>): number {
  return Array.from(a).reduce((most, v, i) => Math.max(most, Math.abs(v - b[i]!)), 0);
}

async function picture(name: string, bytes: Uint8Array): Promise<Picture> {
  const data = await readStock(name, bytes);
  if (data.type !== 'picture') throw new Error(`${name} is no picture`);
  return data;
}

test.each([
  ['monob', 0],
  ['gray', 0],
  ['ya8', 0],
  ['pal8', 0],
  ['rgb24', 0],
  ['rgba', 0],
  ['gray16be', 1],
  ['rgb48be', 1],
  ['rgba64be', 1],
])('PNG of ffmpeg: %s', async (format, near) => {
  const file = join(dir, `${format}.png`);
  const source = "testsrc2=s=37x23,format=rgba,geq=r='r(X,Y)':g='g(X,Y)':b='b(X,Y)':a='7*X'";
  ffmpeg('-f', 'lavfi', '-i', source, '-frames:v', '1', '-pix_fmt', format, file);
  const { width, height, pixels } = await picture('of-ffmpeg.png', readFileSync(file));
  expect([width, height]).toEqual([37, 23]);
  const wanted = read(file);
  const far = farthest(pixels, wanted);
  expect(pixels).toHaveLength(wanted.length);
  expect(far).toBeLessThanOrEqual(near);
  expect(new Set(pixels).size).toBeGreaterThan(1);
});

interface Made {
  width: number;
  height: number;
  depth: number;
  /** Colour type of the standard. */
  type: number;
  interlaced?: boolean;
}

function chunk(type: string, data: Uint8Array | number[]): number[] {
  const length = [24, 16, 8, 0].map((s) => (data.length >> s) & 255);
  return [...length, ...Buffer.from(type), ...data, 0, 0, 0, 0];
}

/** A PNG of lines as they are packed, each with its filter. */
function png(made: Made, lines: Uint8Array, around: number[] = []): Uint8Array {
  const { width, height, depth, type, interlaced = false } = made;
  const size = (n: number): number[] => [24, 16, 8, 0].map((s) => (n >> s) & 255);
  const head = [...size(width), ...size(height), depth, type, 0, 0, Number(interlaced)];
  const data = zlibSync(lines, { level: 9 });
  return Uint8Array.from([
    0x89,
    0x50,
    0x4e,
    0x47,
    0x0d,
    0x0a,
    0x1a,
    0x0a,
    ...chunk('IHDR', head),
    ...around,
    ...chunk('IDAT', data),
    ...chunk('IEND', []),
  ]);
}

const PALETTE = chunk('PLTE', [10, 20, 30, 40, 50, 60, 70, 80, 90]);

test('palettes and greys of few bits, with parts that are clear', async () => {
  // Five pixels of two bits: 2, 0, 1, 2, 0.
  const lines = Uint8Array.from([0, 0b10000110, 0b00000000]);
  const few = png({ width: 5, height: 1, depth: 2, type: 3 }, lines, [
    ...PALETTE,
    ...chunk('tRNS', [255, 128]),
  ]);
  expect([...(await picture('few.png', few)).pixels]).toEqual([
    70, 80, 90, 255, 10, 20, 30, 255, 40, 50, 60, 128, 70, 80, 90, 255, 10, 20, 30, 255,
  ]);
  // Three greys of four bits: 15, 3, 0; those of 3 are clear.
  const grey = png(
    { width: 3, height: 1, depth: 4, type: 0 },
    Uint8Array.from([0, 0xf3, 0x00]),
    chunk('tRNS', [0, 3]),
  );
  expect([...(await picture('grey.png', grey)).pixels]).toEqual([
    255, 255, 255, 255, 51, 51, 51, 0, 0, 0, 0, 255,
  ]);
  // One colour that is clear.
  const colour = png(
    { width: 2, height: 1, depth: 8, type: 2 },
    Uint8Array.from([0, 1, 2, 3, 1, 2, 4]),
    chunk('tRNS', [0, 1, 0, 2, 0, 3]),
  );
  expect([...(await picture('colour.png', colour)).pixels]).toEqual([1, 2, 3, 0, 1, 2, 4, 255]);
});

test('pictures that nobody should make are refused in words', async () => {
  const grey = { width: 16, height: 16, depth: 8, type: 0 };
  const lines = new Uint8Array(16 * 17);
  const bomb = png(grey, new Uint8Array(64e6));
  expect(bomb.length).toBeLessThan(100_000);
  expect(await refusal('bomb.png', bomb)).toBe('bomb.png: it unpacks to more than its pixels.');
  const short = png(grey, lines.subarray(0, 100));
  expect(await refusal('short.png', short)).toContain('its pixels end before its last line');
  expect(await refusal('none.png', png({ ...grey, width: 0 }, lines))).toContain('0 × 16 pixels');
  const beyond = png({ ...grey, type: 3 }, lines.fill(9, 1, 17), PALETTE);
  expect(await refusal('beyond.png', beyond)).toContain('the pixel 0, 0 has a colour that the pal');
  const interlaced = png({ ...grey, depth: 2, interlaced: true }, lines);
  expect(await refusal('inter.png', interlaced)).toContain('save it without interlacing');
  expect(await refusal('text.png', Buffer.from('<svg/>'))).toContain('this is no PNG');
  const whole = png(grey, new Uint8Array(16 * 17));
  expect(await refusal('whole.png', whole)).toBe('accepted');
  for (let cut = 1; cut < whole.length; cut += 3) {
    expect(await refusal('cut.png', whole.subarray(0, cut))).toMatch(/^cut\.png: [^(]*\.$/);
  }
});

test('an animated PNG whose frames are parts that are laid over each other', async () => {
  const file = join(dir, 'parts.apng');
  const source =
    "testsrc2=s=64x48:r=10:d=1,format=rgba,geq=r='r(X,Y)':g='g(X,Y)':b='b(X,Y)':a='255-2*X'";
  ffmpeg('-f', 'lavfi', '-i', source, '-f', 'apng', file);
  const wanted = read(file, ['-f', 'apng']);
  const clip = (await readStock('parts.apng', readFileSync(file))) as Clip;
  expect(clip.times).toHaveLength(11);
  expect(wanted).toHaveLength(10 * 4 * 64 * 48);
  // Behind the last one, the first again.
  for (const index of [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 0]) {
    const { pixels } = await clip.picture(index);
    const own = wanted.subarray(index * pixels.length, (index + 1) * pixels.length);
    const far = farthest(pixels, own);
    expect([index, far <= 1]).toEqual([index, true]);
  }
});

describe('zips of frames', () => {
  const frame = png({ width: 2, height: 1, depth: 8, type: 0 }, Uint8Array.from([0, 9, 9]));

  test('what systems and folders add is passed over', async () => {
    const zip = zipSync({
      '__MACOSX/shot/._f1.png': Uint8Array.from([1]),
      'shot/.DS_Store': Uint8Array.from([1]),
      'shot/f1.png': frame,
      'shot/f2.png': frame,
      'shot/notes.txt': Uint8Array.from([1]),
    });
    expect(((await readStock('shot.zip', zip)) as Clip).times).toHaveLength(3);
  });

  test('one that unpacks to more than fits, is encrypted, or cut off, is refused before it is unpacked', async () => {
    // The table says 400 MB of each of three frames.
    const zip = zipSync({ 'f1.png': frame, 'f2.png': frame, 'f3.png': frame });
    const view = new DataView(zip.buffer);
    let at = zip.length - 22;
    for (at = view.getUint32(at + 16, true); view.getUint32(at, true) === 0x02014b50;) {
      view.setUint32(at + 24, 400e6, true);
      at += 46 + view.getUint16(at + 28, true) + view.getUint16(at + 30, true);
    }
    expect(await refusal('vast.zip', zip)).toContain('The zip unpacks to more than 1 GB');
    const locked = zipSync({ 'f1.png': frame });
    const table = new DataView(locked.buffer).getUint32(locked.length - 6, true);
    locked[table + 8]! |= 1;
    expect(await refusal('locked.zip', locked)).toContain('The zip is encrypted');
    const cut = zipSync({ 'f1.png': frame }).subarray(0, 60);
    expect(await refusal('cut.zip', cut)).toContain('cut off, or no zip at all');
  });
});
