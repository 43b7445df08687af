import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pieceText } from '@vast-swarm/core/piece';
import { vastSwarm } from '../../../tests/support/commandLine';
import { readBy } from '../../../tests/support/readBy';
import { smallPiece } from '../../../tests/support/pieces';

/** Frames in each format that the command line writes, as another program reads them. */

const [WIDTH, HEIGHT] = [97, 54];

let dir: string;
beforeAll(async () => {
  dir = mkdtempSync(join(tmpdir(), 'vast-swarm-'));
  const piece = smallPiece((p) => {
    p.frame.rate = 23.976;
    // Its finish ends in a treatment that is one with the transfer curve where only pixels are wanted.
    p.swarms[0]!.dials.light = 6;
  });
  writeFileSync(join(dir, 'small.json'), pieceText(piece));
  const kinds = ['png', 'png16', 'exr', 'png16 --alpha', 'exr --alpha', 'exr --layers'];
  for (const kind of kinds) {
    const [format, ...alpha] = kind.split(' ') as [string, ...string[]];
    const size = `${String(WIDTH)}x${String(HEIGHT)}`;
    const out = ['--out', join(dir, kind), '--format', format, ...alpha];
    const run = await vastSwarm(
      'render',
      join(dir, 'small.json'),
      '--frames',
      '20..21',
      '--size',
      size,
      ...out,
    );
    expect([run.err, run.code]).toEqual(['', 0]);
  }
});
afterAll(() => {
  rmSync(dir, { recursive: true });
});

test('--loop is what the piece may say itself', async () => {
  const frame = async (name: string, ...options: string[]): Promise<Buffer> => {
    const out = ['--frames', '3..3', '--size', '96x54', '--out', join(dir, name)];
    const run = await vastSwarm('render', join(dir, 'small.json'), ...out, ...options);
    expect([run.err, run.code]).toEqual(['', 0]);
    return read(`${name}/frame_0003.png`, 'rgb24');
  };
  const [plain, looped, said] = [
    await frame('plain'),
    await frame('looped', '--loop'),
    await frame('said', '--set', 'frame.loop=true'),
  ];
  expect(looped.equals(said)).toBe(true);
  // What was born before the seam is there.
  const light = (pixels: Buffer): number => pixels.reduce((sum, v) => sum + v, 0);
  expect(light(looped)).toBeGreaterThan(1.5 * light(plain));
});

const read = (file: string, format: string): Buffer => readBy(join(dir, file), format);
const words = (file: string): Uint16Array => {
  const bytes = read(file, 'rgb48le');
  return new Uint16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
};

/** Linear light of a frame: red, green and blue of each pixel. */
function light(file: string): Float32Array {
  const bytes = read(file, 'gbrpf32le');
  const planes = new Float32Array(
    bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length),
  );
  const count = WIDTH * HEIGHT;
  const order = [2, 0, 1];
  return Float32Array.from(
    { length: 3 * count },
    (_, i) => planes[order[i % 3]! * count + Math.floor(i / 3)]!,
  );
}

/** IEC 61966-2-1. */
const srgb = (v: number): number => (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055);

test('frames are called by their numbers, and end as their format does', () => {
  expect(readdirSync(join(dir, 'png'))).toEqual(['frame_0020.png', 'frame_0021.png']);
  expect(readdirSync(join(dir, 'png16'))).toEqual(['frame_0020.png', 'frame_0021.png']);
  expect(readdirSync(join(dir, 'exr'))).toEqual(['frame_0020.exr', 'frame_0021.exr']);
});

test('all formats have one picture: to a step of theirs, and a step of dither in 8 bits', () => {
  const [eight, sixteen, linear] = [
    read('png/frame_0020.png', 'rgb24'),
    words('png16/frame_0020.png'),
    light('exr/frame_0020.exr'),
  ];
  expect(eight.length).toBe(3 * WIDTH * HEIGHT);
  let [between, off] = [0, 0];
  for (let i = 0; i < eight.length; i++) {
    const wanted = srgb(Math.min(1, Math.max(0, linear[i]!)));
    // Half precision has eleven bits.
    expect(Math.abs(sixteen[i]! - 65535 * wanted)).toBeLessThan(32);
    // A step of dither to each side, half a one of rounding, and what the fitted curve is off.
    expect(Math.abs(eight[i]! - 255 * wanted)).toBeLessThan(2);
    off += eight[i]! - 255 * wanted;
    if (sixteen[i]! % 257 !== 0) between += 1;
  }
  expect(Math.abs(off / eight.length)).toBeLessThan(0.2);
  // What 8 bits do not have: steps between theirs.
  expect(between).toBeGreaterThan(500);
});

test('without a backdrop there is a channel of what is covered, and nothing in it where nothing is', () => {
  const count = WIDTH * HEIGHT;
  const exr = read('exr --alpha/frame_0020.exr', 'gbrapf32le');
  const planes = new Float32Array(exr.buffer.slice(exr.byteOffset, exr.byteOffset + exr.length));
  const png = read('png16 --alpha/frame_0020.png', 'rgba64le');
  const straight = new Uint16Array(png.buffer.slice(png.byteOffset, png.byteOffset + png.length));
  let [free, seen] = [0, 0];
  for (let i = 0; i < count; i++) {
    const [green, blue, red, cover] = [0, 1, 2, 3].map((k) => planes[k * count + i]!);
    const brightest = Math.max(red!, green!, blue!);
    // What shines covers as much as it is bright, in a PNG.
    const alpha = Math.min(1, Math.max(cover!, brightest));
    expect(Math.abs(straight[4 * i + 3]! / 65535 - alpha)).toBeLessThan(1e-3);
    if (alpha === 0) free += 1;
    if (brightest > 0.05) seen += 1;
  }
  expect(free).toBeGreaterThan(20);
  expect(seen).toBeGreaterThan(200);
});

test('an OpenEXR frame says its rate as the fraction that it is', () => {
  const head = execFileSync('exrheader', [join(dir, 'exr/frame_0021.exr')]).toString();
  expect(head).toMatch(/framesPerSecond[^\n]*23\.976/);
  expect(head).toMatch(/chromaticities/);
});

test('OpenEXR has its layers under names that other programs find', () => {
  const file = join(dir, 'exr --layers/frame_0020.exr');
  const head = execFileSync('exrheader', [file]).toString();
  const listed = head.match(/^ {4}\S+, (16-bit|32-bit) floating-point/gm)!;
  expect(listed.map((line) => line.trim().replace(/-bit.*/, ''))).toEqual([
    'B, 16',
    'G, 16',
    'Motes.A, 16',
    'Motes.B, 16',
    'Motes.G, 16',
    'Motes.R, 16',
    'R, 16',
    'Z, 32',
    'motion.X, 32',
    'motion.Y, 32',
    'swarm.number, 32',
    'unfinished.B, 16',
    'unfinished.G, 16',
    'unfinished.R, 16',
  ]);
  expect(head).toMatch(/swarm1[^\n]*"Motes"/);
  const picture = read('exr --layers/frame_0020.exr', 'gbrpf32le');
  expect(picture.equals(read('exr/frame_0020.exr', 'gbrpf32le'))).toBe(true);
});

test('layers are asked for by their names, and of OpenEXR alone', async () => {
  const of = (...args: string[]) =>
    vastSwarm('render', join(dir, 'small.json'), '--out', join(dir, 'no'), ...args);
  const png = await of('--layers', 'depth');
  const why = '--layers: only OpenEXR has them, and the format is png.\n';
  expect([png.code, png.err]).toEqual([1, why]);
  const odd = await of('--format', 'exr', '--layers', 'depth,normals');
  expect(odd.code).toBe(2);
  expect(odd.err).toContain('layers are depth, motion, swarm, alone, unfinished');
});

test('a size over the memory is refused before anything is made, with what fits', async () => {
  const out = join(dir, 'large');
  const size = ['--size', '16384x16384', '--frames', '20'];
  const run = await vastSwarm('render', join(dir, 'small.json'), ...size, '--out', out);
  expect([run.code, run.out]).toEqual([1, '']);
  expect(run.err).toMatch(/^Frames of 16384 × 16384 pixels would take .* \d+ × \d+ fits\.$/m);
  expect(existsSync(out)).toBe(false);
});

test('a format that is not known is answered with those that are', async () => {
  const run = await vastSwarm('render', join(dir, 'small.json'), '--out', dir, '--format', 'jpg');
  expect(run.code).toBe(2);
  expect(run.err).toContain('png, png16, exr');
});
