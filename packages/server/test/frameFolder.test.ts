import { spawn } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { hostname, tmpdir } from 'node:os';
import { join } from 'node:path';
import { makePart, pieceText } from '@vast-swarm/core/piece';
import { vastSwarm } from '../../../tests/support/commandLine';
import { swept } from '../../../tests/support/sweep';
import { bytesHash } from '../../../tests/support/frameHash';
import { smallPiece } from '../../../tests/support/pieces';
import { CLI } from '../../../tests/support/cli';

/** Folders of numbered frames: names, going on where a render was ended, and who may write. */

const LENGTH = 24;
let dir: string;
let piece: string;
let whole: string[];
beforeAll(async () => {
  dir = mkdtempSync(join(tmpdir(), 'vast-swarm-'));
  piece = join(dir, 'small.json');
  const small = smallPiece((p) => {
    p.frame.length = LENGTH;
    // A finish that remembers: a frame that is left out would be missed by those behind it.
    p.finish = [makePart('finish', 'feedback', [])];
  });
  writeFileSync(piece, pieceText(small));
  await vastSwarm('render', piece, '--out', join(dir, 'whole'));
  whole = hashes('whole');
});
afterAll(() => {
  rmSync(dir, { recursive: true });
});

const frames = (folder: string): string[] =>
  readdirSync(join(dir, folder))
    .filter((name) => !name.startsWith('.'))
    .sort();
const hashes = (folder: string): string[] =>
  frames(folder).map((name) => `${name} ${bytesHash(readFileSync(join(dir, folder, name)))}`);
const render = (folder: string, ...more: string[]) =>
  vastSwarm('render', piece, '--out', join(dir, folder), ...more);

/** Ends a render when so many of its frames are there. */
async function killedAt(folder: string, count: number, signal: NodeJS.Signals): Promise<void> {
  const args = [CLI, 'render', piece, '--out', join(dir, folder), '--resume', '--json'];
  const child = spawn(process.execPath, args, { stdio: ['ignore', 'pipe', 'ignore'] });
  let lines = 0;
  child.stdout.on('data', (data: Buffer) => {
    lines += data.toString().split('\n').length - 1;
    if (lines >= count) child.kill(signal);
  });
  await new Promise((ended) => child.once('close', ended));
}

test('a render that was killed again and again goes on to the same frames, to the bit', async () => {
  // From run to run another stretch, cut off at another moment.
  for (const [i, count] of [1, 3, 2, 4, 2].entries()) {
    await killedAt('killed', count, i % 2 ? 'SIGTERM' : 'SIGKILL');
  }
  const there = frames('killed').filter((name) => name.endsWith('.png')).length;
  expect(there).toBeGreaterThan(5);
  const times = frames('killed')
    .slice(0, 3)
    .map((name) => statSync(join(dir, 'killed', name)).mtimeMs);
  const { code, err } = await render('killed', '--resume');
  expect([code, err]).toEqual([0, '']);
  expect(hashes('killed')).toEqual(whole);
  // What was there was not made again.
  const now = frames('killed')
    .slice(0, 3)
    .map((name) => statSync(join(dir, 'killed', name)).mtimeMs);
  expect(now).toEqual(times);
});

test('frames that are gone, cut short or not what was written are made again', async () => {
  await render('holes');
  const at = (n: number): string => join(dir, 'holes', `frame_00${String(n).padStart(2, '0')}.png`);
  rmSync(at(3));
  truncateSync(at(7), 100);
  const bytes = readFileSync(at(11));
  bytes[bytes.length >> 1]! ^= 1;
  writeFileSync(at(11), bytes);
  // Another picture under its name.
  writeFileSync(at(15), readFileSync(at(16)));
  const { out } = await render('holes', '--resume', '--json');
  const made = out.trim().split('\n');
  expect(made.map((line) => (JSON.parse(line) as { frame: number }).frame)).toEqual([3, 7, 11, 15]);
  expect(JSON.parse(made[3]!)).toMatchObject({ done: 4, total: 4, secondsLeft: 0 });
  expect(hashes('holes')).toEqual(whole);
});

test('stretches of the frames make the whole', async () => {
  for (const k of [3, 1, 2]) await render('chunks', '--chunk', `${String(k)}/3`, '--resume');
  expect(hashes('chunks')).toEqual(whole);
});

const OTHERS: [args: string[], message: string][] = [
  [['--size', '64x36'], 'their size was 128x72, and is 64x36 now'],
  [['--alpha'], 'their alpha was false, and is true now'],
  [['--set', 'motes.rate=10'], 'the piece was another one, or has been changed since'],
];

test.each(swept(OTHERS, 0.3))(
  'frames of another render are not gone on with: %j',
  async (args, message) => {
    await render('other', '--frames', '0..1');
    const { code, err } = await render('other', '--resume', ...args);
    expect(code).toBe(1);
    expect(err).toContain(message);
    expect(err).toContain('leave out --resume to begin anew');
    expect(frames('other')).toEqual(['frame_0000.png', 'frame_0001.png']);
  },
);

test('two renders do not write into one folder; one whose program is gone is in nobody’s way', async () => {
  const lock = join(dir, 'held', '.frame_.png.0-5.lock');
  mkdirSync(join(dir, 'held'));
  const held = (pid: number, host = hostname()): void => {
    writeFileSync(lock, JSON.stringify({ pid, host, first: 0, last: 5 }));
  };
  held(process.pid);
  const { code, err } = await render('held', '--frames', '0');
  expect(code).toBe(1);
  expect(err).toContain(`process ${String(process.pid)} on ${hostname()} is at work in it`);
  // Frames that it does not make are free.
  expect((await render('held', '--frames', '6')).code).toBe(0);
  held(1, 'lantern-machine');
  expect((await render('held', '--frames', '0')).err).toContain('on lantern-machine');
  expect(frames('held')).toEqual(['frame_0006.png']);
  const gone = spawn('true');
  await new Promise((ended) => gone.once('close', ended));
  held(gone.pid!);
  expect((await render('held', '--frames', '0')).code).toBe(0);
  expect(existsSync(lock)).toBe(false);
});

test.each([
  [
    ['shots/net_%03d.png', '--frames', '8..9'],
    ['net_008.png', 'net_009.png'],
  ],
  [['shots/net.exr', '--frames', '8'], ['net.exr']],
  [['shots/take.2', '--frames', '8'], ['frame_0008.png']],
  [['shots/still_%d.png', '--format', 'png16', '--frames', '8'], ['still_8.png']],
])('%j names the frames %j', async ([out, ...more], names) => {
  const made = await render(out!, ...more);
  expect([made.code, made.err]).toEqual([0, '']);
  const folder = out!.includes('.2') ? out! : 'shots';
  expect(frames(folder)).toEqual(expect.arrayContaining(names));
});

test.each([
  [['plain.png'], 'need a place for their number in the name, as '],
  [['net_%04d.png', '--format', 'exr'], 'frames of this format end in .exr'],
  [['small.json/deeper'], 'one of its folders is a file'],
  [['rest', '--chunk', '2/60'], '--chunk 2/60: there are only 24 frames'],
])('%j is refused: %s', async ([out, ...more], message) => {
  const { code, err } = await render(out!, ...more);
  expect(code).toBe(1);
  expect(err).toContain(message);
});
