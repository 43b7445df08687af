import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { exrOf } from '@vast-swarm/core/formats';
import { encode } from 'fast-png';
import { vastSwarm } from '../../../tests/support/commandLine';
import { difference } from '../src/diff/compare';
import type { Pixels } from '../src/diff/pixels';

let dir: string;
beforeEach(() => {
  dir = mkdtempSync(join(tmpdir(), 'vast-swarm-'));
  for (const folder of ['a', 'b']) mkdirSync(join(dir, folder));
});
afterEach(() => {
  rmSync(dir, { recursive: true });
});

const [WIDTH, HEIGHT] = [40, 30];
const at = (name: string): string => join(dir, name);
const diff = (a: string, b: string, ...more: string[]) => vastSwarm('diff', at(a), at(b), ...more);

/** An even frame, but for one channel of one pixel. */
function still(name: string, off = 0, x = 0, y = 0): void {
  const data = new Uint8Array(3 * WIDTH * HEIGHT).fill(100);
  data[3 * (y * WIDTH + x) + 1]! += off;
  writeFileSync(at(name), encode({ width: WIDTH, height: HEIGHT, channels: 3, depth: 8, data }));
}

async function lit(name: string, value: number): Promise<void> {
  const values = new Float32Array(WIDTH * HEIGHT).fill(0.25);
  // Its third row from the top.
  values[2 * WIDTH + 7] = value;
  const channels = ['R', 'G', 'B'].map((c) => ({ name: c, values, as: 'float' as const }));
  writeFileSync(at(name), await exrOf({ width: WIDTH, height: HEIGHT, channels }));
}

test('equal frames pass; of others it says how much, and where', async () => {
  still('a/x.png');
  still('b/x.png', 7, 31, 12);
  expect(await diff('a/x.png', 'a/x.png')).toMatchObject({ code: 0 });
  const { code, out } = await diff('a/x.png', 'b/x.png');
  expect(code).toBe(1);
  expect(out).toContain('largest 7 of 255 at 31,12; mean 0.00194; 0.0833 % of the pixels');
  expect(out).toContain('within 31,12 to 31,12');
  expect((await diff('a/x.png', 'b/x.png', '--limit', '7')).code).toBe(0);
  expect((await diff('a/x.png', 'b/x.png', '--limit', '6.9')).code).toBe(1);
});

test('light is compared as light, of a file that another program wrote too', async () => {
  await lit('a/x.exr', 0.25);
  await lit('b/x.exr', 0.75);
  const { code, out } = await diff('a/x.exr', 'b/x.exr');
  expect([code, out]).toEqual([1, expect.stringContaining('largest 128 of 255 at 7,2')]);
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-i',
    at('b/x.exr'),
    '-compression',
    'zip1',
    at('b/y.exr'),
  ]);
  expect((await diff('b/x.exr', 'b/y.exr')).out).toContain('1 frame compared, 0 over nothing');
});

test('folders are compared frame by frame; what one of them lacks is over any limit', async () => {
  for (const n of [1, 2, 3]) still(`a/f_${String(n)}.png`);
  still('b/f_1.png');
  still('b/f_2.png', 3, 5, 5);
  const { code, out } = await diff('a', 'b', '--json', '--limit', '5');
  const lines = out
    .trim()
    .split('\n')
    .map((l) => JSON.parse(l) as { frame: string; passes: boolean; problem?: string });
  expect(code).toBe(1);
  expect(lines.map(({ frame, passes }) => [frame, passes])).toEqual([
    ['f_1.png', true],
    ['f_2.png', true],
    ['f_3.png', false],
  ]);
  expect(lines[2]!.problem).toBe(`it is not in ${at('b')}`);
  still('b/f_3.png');
  expect((await diff('a', 'b', '--limit', '5')).out).toContain('3 frames compared, 0 over a limit');
});

test('what cannot be compared is told', async () => {
  still('a/x.png');
  await lit('a/x.exr', 1);
  expect((await diff('a/x.png', 'a/x.exr')).out).toContain('one has linear light');
  const small = new Uint8Array(3 * 16);
  writeFileSync(at('a/s.png'), encode({ width: 4, height: 4, channels: 3, depth: 8, data: small }));
  const sizes = await diff('a/x.png', 'a/s.png', '--limit', '255');
  expect([sizes.code, sizes.out]).toEqual([1, expect.stringContaining('40x30 and 4x4 pixels')]);
  copyFileSync(at('a/x.png'), at('b/x.png'));
  truncateSync(at('b/x.png'), 90);
  const cut = await diff('a', 'b');
  expect([cut.code, cut.err]).toEqual([1, expect.stringMatching(/x\.png: this is no whole frame/)]);
  expect((await diff('a/x.png', 'b')).err).toContain('one is a folder, the other a file');
  expect((await diff('a/x.png', 'nowhere')).err).toContain('cannot be read');
  expect((await diff('a/x.png', 'a/x.png', '--limit', 'much')).code).toBe(2);
});

test('what is no number is the same as itself, and differs from all else by all there is', () => {
  const of = (...values: number[]): Pixels => {
    return { width: 2, height: 1, channels: 1, light: true, values: Float32Array.from(values) };
  };
  expect(difference(of(NaN, Infinity), of(NaN, Infinity))).toBeNull();
  expect(difference(of(1, NaN), of(1, 0))).toMatchObject({ largest: Infinity, at: [1, 0] });
});
