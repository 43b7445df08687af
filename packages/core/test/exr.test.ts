import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { exrOf, type ExrChannel } from '../src/formats/exr';
import { readBy } from '../../../tests/support/readBy';
import { halfOf, ofHalf, putHalves } from '../src/formats/half';

let folder: string;
beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'exr-'))));
afterAll(() => {
  rmSync(folder, { recursive: true });
});

test('each number of half precision is its own bits', () => {
  const all = Array.from({ length: 0x10000 }, (_, half) => half);
  const wrong = all.filter((half) => {
    const value = ofHalf(half);
    const back = halfOf(value);
    return Number.isNaN(value) ? (back & 0x7fff) <= 0x7c00 : back !== half;
  });
  expect(wrong).toEqual([]);
});

test('many numbers at once have the bits of each', () => {
  const special = [0, -0, NaN, Infinity, -Infinity, 65504, 65519, 65520, 1e-9, -6e-8, 6.1e-5];
  const values = Float32Array.from({ length: 60_000 }, (_, i) =>
    i < special.length ? special[i]! : (i % 2 ? 1 : -1) * 1.0009 ** (i - 42_000),
  );
  const bytes = new Uint8Array(2 * values.length + 6);
  putHalves(values, bytes, 6);
  const view = new DataView(bytes.buffer, 6);
  values.forEach((v, i) => {
    if (view.getUint16(2 * i, true) !== halfOf(v)) throw new Error(String(v));
  });
});

test('numbers between two of half precision go to the nearer, or to the even one', () => {
  const wrong: number[] = [];
  for (let half = 0; half < 0x7bff; half += 7) {
    const [low, high] = [ofHalf(half), ofHalf(half + 1)];
    const middle = (low + high) / 2;
    const even = half % 2 === 0 ? half : half + 1;
    const right =
      halfOf(middle) === even &&
      halfOf(low + (high - low) * 0.45) === half &&
      halfOf(low + (high - low) * 0.55) === half + 1 &&
      halfOf(-middle) === (even | 0x8000);
    if (!right) wrong.push(half);
  }
  expect(wrong).toEqual([]);
  expect([65519, 65520, 1e9, -1e9].map(halfOf)).toEqual([0x7bff, 0x7c00, 0x7c00, 0xfc00]);
  expect([1e-9, -1e-9, 0, -0].map(halfOf)).toEqual([0, 0x8000, 0, 0x8000]);
});

const channel = (name: string, count: number, as: ExrChannel['as'] = 'half'): ExrChannel => ({
  name,
  as,
  // Dark, light beyond 1, and below 0, as a glow and a lens may leave it.
  values: Float32Array.from(
    { length: count },
    (_, i) => Math.sin(i * 0.37 + name.length) * 4 ** ((i % 9) - 4),
  ),
});

async function written(
  name: string,
  channels: ExrChannel[],
  width: number,
  height: number,
): Promise<string> {
  const file = join(folder, name);
  writeFileSync(file, await exrOf({ width, height, channels, rate: [24000, 1001] }));
  return file;
}

/** The names in the list of channels, in its order: the first attribute of the head. */
function listed(bytes: Uint8Array): string[] {
  const text = (at: number): string => {
    const end = bytes.indexOf(0, at);
    return new TextDecoder().decode(bytes.subarray(at, end));
  };
  const names: string[] = [];
  // Behind magic and version, the attribute's name and type, and how long it is.
  for (let at = 8 + 'channels\0chlist\0'.length + 4; bytes[at] !== 0;) {
    names.push(text(at));
    at += new TextEncoder().encode(names.at(-1)).length + 1 + 16;
  }
  return names;
}

test('channels stand in the order of the bytes of their names, as the layout asks, and so do their numbers', async () => {
  const names = ['R', 'Z', 'B', 'motes.R', 'G', 'A', 'Motes.A', 'é.R', '\u{1f300}.R', '\uff21.R'];
  const channels = names.map((name, i) => ({
    name,
    as: 'float' as const,
    values: Float32Array.of(Math.sin(7.3 * i + 1)),
  }));
  const bytes = await exrOf({ width: 1, height: 1, channels });
  const sorted = [...names].sort((a, b) => Buffer.compare(Buffer.from(a), Buffer.from(b)));
  expect(listed(bytes)).toEqual(sorted);
  // One line of one block, too small to be worth packing: channel after channel.
  const numbers = new Float32Array(bytes.slice(bytes.length - 4 * names.length).buffer);
  expect([...numbers]).toEqual(
    sorted.map((name) => channels.find((c) => c.name === name)!.values[0]),
  );
});

/** Pixels as another program reads them: planes of green, blue and red. */
function readBack(file: string): Float32Array {
  const bytes = readBy(file, 'gbrapf32le');
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
}

test.each([
  [1, 1],
  [7, 5],
  [64, 16],
  [131, 49],
])('another program reads the very numbers of a picture of %i × %i', async (width, height) => {
  const count = width * height;
  const channels = ['R', 'G', 'B', 'A'].map((name) => channel(name, count));
  const read = readBack(await written(`a${String(width)}.exr`, channels, width, height));
  const plane = (k: number): number[] => [...read.subarray(k * count, (k + 1) * count)];
  const [red, green, blue, alpha] = channels.map(({ values }) =>
    [...values].map((v) => ofHalf(halfOf(v))),
  );
  expect([plane(0), plane(1), plane(2)]).toEqual([green, blue, red]);
  expect(plane(3)).toEqual(alpha);
});

test('layers, depth and the rate stand in the head, and full precision stays', async () => {
  const names = ['R', 'G', 'B', 'Z', 'motion.X', 'motion.Y', `swarm ${'x'.repeat(40)}.R`];
  const channels = names.map((name) => channel(name, 35, name === 'Z' ? 'float' : 'half'));
  const file = await written('layers.exr', channels, 7, 5);
  const head = execFileSync('exrheader', [file]).toString();
  for (const name of names) expect(head).toContain(name);
  expect(head).toMatch(/Z, 32-bit floating-point/);
  expect(head).toMatch(/motion\.X, 16-bit floating-point/);
  expect(head).toMatch(/framesPerSecond[^\n]*23\.976/);
  expect(head).toMatch(/displayWindow[^\n]*\n?[^\n]*6 4/);
});

test('a picture that does not fit its channels is refused with their name', async () => {
  const picture = { width: 2, height: 2 };
  const channels = [channel('R', 3)];
  await expect(exrOf({ ...picture, channels })).rejects.toThrow(
    'exr: R has 3 numbers for 4 pixels',
  );
  const twice = [channel('R', 4), channel('R', 4)];
  await expect(exrOf({ ...picture, channels: twice })).rejects.toThrow(
    'exr: there are two channels R',
  );
});
