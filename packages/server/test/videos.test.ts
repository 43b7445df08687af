import { execFileSync } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { hostname, tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeChoice, makePart, makePiece, pieceText, type Piece } from '@vast-swarm/core/piece';
import { run, vastSwarm, vastSwarmIn } from '../../../tests/support/commandLine';
import { smallPiece } from '../../../tests/support/pieces';
import { CLI } from '../../../tests/support/cli';
import { swept } from '../../../tests/support/sweep';

/** Videos of the command line, as ffprobe and ffmpeg read them. */

let dir: string;
beforeAll(() => {
  dir = mkdtempSync(join(tmpdir(), 'vast-swarm-'));
});
afterAll(() => {
  rmSync(dir, { recursive: true });
});

function written(name: string, piece: Piece): string {
  const file = join(dir, `${name}.json`);
  writeFileSync(file, pieceText(piece));
  return file;
}

/** A soft picture that moves, without anything that 4:2:0 would take from it. */
function soft(change: (piece: Piece) => void = () => undefined): Piece {
  const piece = makePiece('Soft');
  piece.frame = { width: 160, height: 96, rate: 30000 / 1001, length: 12, preroll: 0 };
  piece.signals = [{ ...makePart('signals', 'wave', []), id: 'sway' }];
  piece.backdrop = makeChoice('backdrops', 'linear');
  Object.assign(piece.backdrop.dials, {
    turn: { feed: 'signal', signal: 'sway', from: 80, to: 100 },
    first: '#10243a',
    last: '#d8823c',
  });
  change(piece);
  return piece;
}

interface Stream {
  codec_name: string;
  pix_fmt: string;
  r_frame_rate: string;
  nb_read_frames: string;
  width: number;
  color_space: string;
  color_primaries: string;
  color_transfer: string;
  color_range: string;
}

function probed(file: string): { video: Stream; streams: number; seconds: number } {
  const args = ['-v', 'error', '-count_frames', '-show_streams', '-show_format', '-of', 'json'];
  const text = execFileSync('ffprobe', [...args, file]).toString();
  const { streams, format } = JSON.parse(text) as {
    streams: Stream[];
    format: { duration: string };
  };
  return { video: streams[0]!, streams: streams.length, seconds: Number(format.duration) };
}

/** Colours of squares of eight pixels: dither, and chroma that is kept for two at a time, are no matter of colour. */
function squares(frames: Buffer): Float32Array {
  const [wide, across] = [160, 160 / 8];
  const sums = new Float32Array(frames.length / 64);
  frames.forEach((v, i) => {
    const [x, y] = [Math.floor(i / 3) % wide, Math.floor(i / 3 / wide)];
    sums[3 * (Math.floor(y / 8) * across + Math.floor(x / 8)) + (i % 3)]! += v / 64;
  });
  return sums;
}

/** Exactly as BT.709 has it: the quick way of ffmpeg is off by a step. */
const EXACTLY =
  'scale=in_color_matrix=bt709:in_range=tv:out_range=full:flags=bicubic+accurate_rnd+full_chroma_int';

function pixels(file: string, format = 'rgb24'): Buffer {
  const decoder = file.endsWith('.webm') && format === 'rgba' ? ['-c:v', 'libvpx-vp9'] : [];
  const exact = format === 'rgb24' && !file.endsWith('.png') ? ['-vf', EXACTLY] : [];
  const to = [...exact, '-f', 'rawvideo', '-pix_fmt', format, '-'];
  return execFileSync('ffmpeg', ['-v', 'error', ...decoder, '-i', file, ...to], {
    maxBuffer: 2 ** 28,
  });
}

const CODED = [
  ['mp4', 'h264', 'yuv420p'],
  ['mp4', 'hevc', 'yuv420p10le'],
  ['mp4', 'av1', 'yuv420p10le'],
  ['webm', 'vp9', 'yuv420p'],
  ['webm', 'av1', 'yuv420p10le'],
  ['mov', 'prores', 'yuv422p10le'],
] as const;

test.each(swept(CODED, 0.25))(
  'a .%s of %s has each frame, the rate as a fraction, the tags of BT.709, and the colours of the PNG',
  async (format, codec, stored) => {
    const piece = written('soft', soft());
    const out = join(dir, `${codec}.${format}`);
    const made = await vastSwarm(
      'render',
      piece,
      '--out',
      out,
      '--codec',
      codec,
      '--quality',
      'best',
    );
    expect([made.err, made.code]).toEqual(['', 0]);
    const { video, streams, seconds } = probed(out);
    expect(video).toMatchObject({
      codec_name: codec,
      pix_fmt: stored,
      nb_read_frames: '12',
      width: 160,
      color_space: 'bt709',
      color_primaries: 'bt709',
      color_transfer: 'bt709',
      color_range: 'tv',
    });
    // Matroska's clock counts milliseconds.
    if (format !== 'webm') expect(video.r_frame_rate).toBe('30000/1001');
    expect(streams).toBe(1);
    expect(Math.abs(seconds - (12 * 1001) / 30000)).toBeLessThan(format === 'webm' ? 2e-3 : 1e-6);
    const frames = join(dir, 'png', 'soft_%02d.png');
    if (!existsSync(join(dir, 'png'))) await vastSwarm('render', piece, '--out', frames);
    const [coded, wanted] = [pixels(out), pixels(frames)];
    expect(coded.length).toBe(wanted.length);
    const [seen, shown] = [squares(coded), squares(wanted)];
    const off = seen.map((v, i) => Math.abs(v - shown[i]!)).sort();
    // Steps of 8 bits of BT.709 are larger than those of the PNG: three colours of them make up to two.
    expect(off[Math.floor(0.98 * off.length)]).toBeLessThan(2);
    expect(off.at(-1)).toBeLessThan(3);
  },
  60_000,
);

test.each([
  ['webm', 3],
  ['mov', 3],
])(
  'a .%s without a backdrop lets what is behind it through',
  async (format, most) => {
    const piece = written(
      'net',
      smallPiece((p) => {
        p.frame.length = 3;
        p.swarms[0]!.dials.size = 1.2;
        p.swarms[0]!.bodies[0]!.dials.mode = 'normal';
        p.frame.preroll = 30;
      }),
    );
    const out = join(dir, `clear.${format}`);
    const made = await vastSwarm('render', piece, '--out', out, '--alpha', '--quality', 'best');
    expect([made.err, made.code]).toEqual(['', 0]);
    await vastSwarm('render', piece, '--out', join(dir, 'clear'), '--alpha');
    const [coded, wanted] = [
      pixels(out, 'rgba'),
      pixels(join(dir, 'clear/frame_%04d.png'), 'rgba'),
    ];
    let [off, free, covered] = [0, 0, 0];
    for (let i = 3; i < wanted.length; i += 4) {
      off += Math.abs(coded[i]! - wanted[i]!);
      if (wanted[i] === 0) free += 1;
      if (wanted[i]! > 128) covered += 1;
    }
    expect(free).toBeGreaterThan(100);
    expect(covered).toBeGreaterThan(100);
    expect(off / (wanted.length / 4)).toBeLessThan(most);
  },
  60_000,
);

/** Both sides as 48,000 samples a second, the left one. */
function heard(file: string): Float32Array {
  const bytes = execFileSync(
    'ffmpeg',
    ['-v', 'error', '-i', file, '-f', 'f32le', '-ar', '48000', '-ac', '1', '-'],
    { maxBuffer: 2 ** 28 },
  );
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
}

test.each(swept([['mp4'], ['webm'], ['mov']] as const, 0.3))(
  'the sound of a .%s of a minute is as long as its frames and in step with them to the end',
  async (format) => {
    const { soundOf } = await import('../../core/test/support/tones');
    const { wavBytes } = await import('@vast-swarm/core/formats');
    // A click each second, for a minute.
    const clicks = soundOf(60, (t) => (t % 1 < 0.02 ? 0.9 * Math.sin(2 * Math.PI * 1000 * t) : 0));
    mkdirSync(join(dir, 'stock'), { recursive: true });
    writeFileSync(join(dir, 'stock', 'clicks.wav'), wavBytes(clicks));
    const piece = makePiece('Clicks');
    piece.frame = { width: 32, height: 32, rate: 24000 / 1001, length: 1440, preroll: 0 };
    piece.stock = [
      { id: 'clicks', name: 'Clicks', type: 'sound', source: { file: 'clicks.wav', hash: '' } },
    ];
    piece.sounds = [makePart('sounds', 'played', [])];
    Object.assign(piece.sounds[0]!.dials, { sound: 'clicks' });
    const out = join(dir, `clicks.${format}`);
    const made = await vastSwarm('render', written('clicks', piece), '--out', out);
    expect([made.err, made.code]).toEqual(['', 0]);
    const samples = heard(out);
    const length = (1440 * 1001) / 24000;
    // AAC comes in blocks of 1,024 samples, Opus in those of 960.
    expect(Math.abs(samples.length - Math.round(length * 48_000))).toBeLessThanOrEqual(
      { mp4: 1024, webm: 960, mov: 0 }[format],
    );
    for (let second = 1; second < 60; second++) {
      const from = Math.round((second - 0.1) * 48_000);
      const begins = samples.subarray(from, from + 9600).findIndex((v) => Math.abs(v) > 0.2);
      expect(Math.abs((from + begins) / 48_000 - second)).toBeLessThan(0.01);
    }
  },
  120_000,
);

test.each([
  [['--out', 'a.mp4', '--codec', 'vp9'], '--codec vp9: a .mp4 file has h264 or hevc or av1'],
  [['--out', 'a.mp4', '--alpha'], '--alpha: h264 has no transparency; take --format webm'],
  [['--out', 'a.webm', '--codec', 'av1', '--alpha'], 'av1 has no transparency'],
  [['--out', 'a.mp4', '--size', '33x32'], '--size 33x32: a video has an even width and height'],
  [['--out', 'a.mp4', '--resume'], '--resume: this goes on with frames'],
  [['--out', 'frames', '--quality', 'best'], '--quality: this is for videos'],
  [['--out', 'frames', '--format', 'mp4'], 'is a file that ends in .mp4'],
  [['--out', 'a.avi'], 'a.avi: this is not written here; the formats are png, png16'],
])('%j is refused: %s', async (args, message) => {
  const piece = written('soft', soft());
  const { code, err } = await vastSwarm('render', piece, ...args);
  expect(code).toBe(1);
  expect(err).toContain(message);
  expect(existsSync(args[1]!)).toBe(false);
});

test('a video is not written twice at once, and its name is a name, whatever it looks like', async () => {
  const piece = written('soft', soft());
  const holder = { pid: process.pid, host: hostname(), first: 0, last: 11 };
  const lock = join(dir, '.twice.mp4.0-11.lock');
  writeFileSync(lock, JSON.stringify(holder));
  const { code, err } = await vastSwarm('render', piece, '--out', join(dir, 'twice.mp4'));
  expect([code, err]).toEqual([1, expect.stringContaining('is at work in it')]);
  const odd = await vastSwarmIn(dir, 'render', piece, '--frames', '0..1', '--out', '-an:b.mp4');
  expect([odd.code, odd.err]).toEqual([0, '']);
  expect(readdirSync(dir)).toContain('-an:b.mp4');
});

test('without ffmpeg it is said what to install; with one that has no encoder, which', async () => {
  const piece = written('soft', soft());
  const empty = join(dir, 'bin');
  mkdirSync(empty);
  const render = (): ReturnType<typeof run> =>
    run('/usr/bin/env', [
      `PATH=${empty}`,
      process.execPath,
      CLI,
      'render',
      piece,
      '--out',
      join(dir, 'none.mp4'),
    ]);
  expect((await render()).err).toContain("install the package 'ffmpeg'");
  const fake = (text: string): void => {
    writeFileSync(join(empty, 'ffmpeg'), `#!/bin/sh\n${text}\n`);
    chmodSync(join(empty, 'ffmpeg'), 0o755);
  };
  fake('echo " V....D mpeg2video  MPEG-2"');
  expect((await render()).err).toContain("no encoder 'libx264'");
  // One that gives up in the middle.
  fake(
    'case "$*" in *-encoders*) echo " V....D libx264  H.264";; *) echo "No space left" >&2; exit 1;; esac',
  );
  const { code, err } = await render();
  expect([code, err]).toEqual([
    1,
    expect.stringContaining('ffmpeg cannot write it: No space left'),
  ]);
  expect(readdirSync(dir).filter((f) => f.includes('none'))).toEqual([]);
});
