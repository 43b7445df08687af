import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { wavBytes } from '@vast-swarm/core/formats';
import { Samples } from '../src/stock/read/samples';
import {
  heardPeaks,
  peaksOf,
  readStock,
  secondsOf,
  StockError,
  type Sound,
} from '@vast-swarm/core/stock';
import { swept } from '../../../tests/support/sweep';

/** Sounds of all formats, encoded and decoded elsewhere (by Debian's ffmpeg), against ours. */

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'sounds-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

function ffmpeg(...args: string[]): void {
  execFileSync('ffmpeg', ['-loglevel', 'error', '-y', ...args]);
}

/** Two tones, left and right, of a second and a half, that begin after a tenth of a second. */
const TONES =
  'aevalsrc=exprs=0.5*sin(2*PI*440*t)*gt(t\\,0.1)|0.25*sin(2*PI*1000*t)*gt(t\\,0.1):d=1.5:s=';

function encoded(name: string, rate: number, ...options: string[]): Uint8Array {
  const file = join(folder, name);
  ffmpeg('-f', 'lavfi', '-i', TONES + String(rate), ...options, file);
  return new Uint8Array(readFileSync(file));
}

/** Samples as ffmpeg decodes them, interleaved. */
function theirs(name: string, channels: number): Float32Array {
  const out = join(folder, 'raw');
  ffmpeg('-i', join(folder, name), '-f', 'f32le', '-ac', String(channels), out);
  const bytes = readFileSync(out);
  return new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4);
}

const read = async (name: string, bytes: Uint8Array): Promise<Sound> =>
  (await readStock(name, bytes)) as Sound;

const FILES: [string, number, string[]][] = [
  ['a.wav', 48_000, []],
  ['deep.wav', 96_000, ['-c:a', 'pcm_s24le']],
  ['float.wav', 44_100, ['-c:a', 'pcm_f32le']],
  ['low.wav', 8000, ['-c:a', 'pcm_u8']],
  ['fine.wav', 192_000, ['-c:a', 'pcm_s32le']],
  ['a.flac', 44_100, []],
  ['a.ogg', 44_100, ['-c:a', 'libvorbis', '-q:a', '8']],
  ['a.opus', 48_000, ['-c:a', 'libopus', '-b:a', '192k']],
  ['a.mp3', 44_100, ['-c:a', 'libmp3lame', '-b:a', '320k']],
  ['opus.webm', 48_000, ['-c:a', 'libopus', '-b:a', '192k']],
  ['flac.mp4', 44_100, ['-c:a', 'flac', '-strict', '-2']],
  ['vorbis.webm', 44_100, ['-c:a', 'libvorbis', '-q:a', '8']],
  ['mp3.mp4', 44_100, ['-c:a', 'libmp3lame', '-b:a', '320k']],
];

test.each(swept(FILES, 0.5))(
  '%s has the samples that another decoder finds',
  async (name, rate, options) => {
    const sound = await read(name, encoded(name, rate, ...options));
    const expected = theirs(name, 2);
    expect(sound.rate).toBe(rate);
    expect(sound.channels).toHaveLength(2);
    const [left, right] = sound.channels as [Int16Array, Int16Array];
    const count = expected.length / 2;
    // Some files hold a little more at their end than the others make of it.
    expect(Math.abs(left.length - count)).toBeLessThan(0.02 * rate);
    for (let i = 0; i < Math.min(count, left.length); i++) {
      if (Math.abs(left[i]! / 32768 - expected[2 * i]!) > 5e-5)
        throw new Error(`left, ${String(i)}`);
      if (Math.abs(right[i]! / 32768 - expected[2 * i + 1]!) > 5e-5) {
        throw new Error(`right, ${String(i)}`);
      }
    }
  },
);

test.each([1, 2])('a sound that is written says how it is laid out: %d channels', (count) => {
  const channel = Int16Array.from({ length: 3000 }, (_, i) => i);
  const bytes = wavBytes({
    type: 'sound',
    rate: 44_100,
    channels: [channel, channel].slice(0, count),
  });
  const path = join(folder, `laid${String(count)}.wav`);
  writeFileSync(path, bytes);
  const view = new DataView(bytes.buffer);
  // Bytes a second, and bytes of all channels together (RIFF MCI, WAVEFORMAT).
  expect([view.getUint32(28, true), view.getUint16(32, true)]).toEqual([88_200 * count, 2 * count]);
  const args = [
    '-v',
    'error',
    '-show_entries',
    'stream=bit_rate,duration_ts',
    '-of',
    'csv=p=0',
    path,
  ];
  expect(execFileSync('ffprobe', args).toString().trim().split(',').sort()).toEqual(
    ['3000', String(16 * 44_100 * count)].sort(),
  );
});

test('what a file holds counts, not its ending', async () => {
  const sound = await read('a.wav', encoded('lies.mp3', 44_100, '-b:a', '128k'));
  expect(secondsOf(sound)).toBeCloseTo(1.5, 3);
});

test('of a file that is cut short, what is there is taken', async () => {
  for (const name of ['cut.wav', 'cut.flac', 'cut.ogg', 'cut.mp3', 'cut.opus']) {
    const short = name.endsWith('opus') ? ['-page_duration', '100000'] : [];
    const bytes = encoded(name, 48_000, ...short);
    const sound = await read(name, bytes.subarray(0, Math.floor(bytes.length * 0.6)));
    expect(secondsOf(sound)).toBeGreaterThan(0.3);
    expect(secondsOf(sound)).toBeLessThan(1.5);
  }
});

test('of eight channels the mean is kept', async () => {
  const file = join(folder, 'eight.wav');
  const sines = Array.from({ length: 8 }, (_, k) => `${String((k + 1) / 16)}*sin(2*PI*100*t)`);
  ffmpeg('-f', 'lavfi', '-i', `aevalsrc=${sines.join('|')}:d=0.2:s=8000`, file);
  const { channels } = await read('eight.wav', new Uint8Array(readFileSync(file)));
  expect(channels).toHaveLength(1);
  const tops = Array.from(channels[0]!, Math.abs);
  expect(Math.max(...tops) / 32768).toBeCloseTo(36 / 16 / 8, 3);
});

test.each([
  ['an empty sound', 'no.wav', ['-t', '0', '-c:a', 'pcm_s16le'], 'no.wav: '],
  ['a sound that no decoder has', 'a.m4a', ['-c:a', 'aac'], 'a.m4a: its sound is AAC'],
] as const)('%s is told', async (_, name, options, message) => {
  const reading = read(name, encoded(name, 44_100, ...options));
  await expect(reading).rejects.toThrow(StockError);
  await expect(reading).rejects.toThrow(message);
});

test('what is no sound, and numbers that are none, are told', async () => {
  const noise = Uint8Array.from({ length: 5000 }, (_, i) => (i * 7919) % 251);
  await expect(read('noise.ogg', noise)).rejects.toThrow('noise.ogg: no sound can be read from it');
  const bytes = encoded('nan.wav', 8000, '-c:a', 'pcm_f32le');
  new DataView(bytes.buffer).setFloat32(bytes.length - 80, NaN, true);
  await expect(read('nan.wav', bytes)).rejects.toThrow(/at 1\.49\d+ s stands what is no number/);
});

test('a sound that is too long is refused in minutes', () => {
  const samples = new Samples('long.wav', 60_000);
  samples.push([new Float32Array(59_000)], 100);
  expect(() => samples.push([new Float32Array(1100)], 100)).toThrow(
    'long.wav: it is too long: 10 minutes of its kind are the most',
  );
});

test('peaks are those of the samples, near and from far away', async () => {
  const sound = await read('peaks.wav', encoded('peaks.wav', 48_000));
  const peaks = (from: number, to: number, count: number) => {
    const { low, high } = peaksOf(sound, from, to, count);
    return [...low].map((l, i) => [l, high[i]!] as const);
  };
  const expected = (from: number, to: number) => {
    const all = sound.channels.flatMap((c) => [...c.slice(from * 48_000, to * 48_000)]);
    all.sort((a, b) => a - b);
    return [all[0]! / 32768, all.at(-1)! / 32768] as const;
  };
  for (const [from, to] of [
    [0.5, 0.501],
    [0, 1.5],
    [0.05, 0.15],
  ] as const) {
    const [low, high] = peaks(from, to, 1)[0]!;
    expect(low).toBeCloseTo(expected(from, to)[0], 2);
    expect(high).toBeCloseTo(expected(from, to)[1], 2);
  }
  // Silence before, and nothing where there is no sound.
  expect(
    peaks(0, 0.09, 3)
      .flat()
      .every((v) => Math.abs(v) < 1e-4),
  ).toBe(true);
  expect(peaks(-2, -1, 2)).toEqual(peaks(7, 8, 2));
});

test('the peaks of what is heard stand where it is, as loud as it is', async () => {
  const sound = await read('heard.wav', encoded('heard.wav', 48_000));
  const heard = {
    sound,
    start: 1,
    from: 0.5,
    to: 1.5,
    gain: 2,
    fadeIn: 0,
    fadeOut: 0,
    repeats: false,
  };
  const { low, high } = heardPeaks(heard, 0, 4, 80);
  const loud = [...high].map((v) => v > 0);
  expect(loud).toEqual(Array.from({ length: 80 }, (_, i) => i >= 20 && i < 40));
  expect(Math.max(...high)).toBeCloseTo(1, 2);
  expect(Math.min(...low)).toBeCloseTo(-1, 2);
  const again = heardPeaks({ ...heard, repeats: true }, 0, 4, 80);
  expect([...again.high].filter((v) => v > 0)).toHaveLength(60);
});
