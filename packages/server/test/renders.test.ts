import { createHash } from 'node:crypto';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pieceText } from '@vast-swarm/core/piece';
import type { RenderJob, RenderOrder } from '@vast-swarm/core/formats';
import { decode } from 'fast-png';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { vastSwarm } from '../../../tests/support/commandLine';
import { swept } from '../../../tests/support/sweep';
import { smallOrder } from '../../../tests/support/orders';
import { smallPiece } from '../../../tests/support/pieces';
import { startServer, type RunningServer } from '../../../tests/support/startServer';

/** Renders at the server: whatever is ended on the way, the frames are those of one that was not. */

const LAST = 39;
const piece = pieceText(
  smallPiece((p) => {
    p.swarms[0]!.dials.rate = 4000;
  }),
);
const order = smallOrder({
  width: 320,
  height: 180,
  last: LAST,
  oversample: 2,
  shutter: 90,
  frames: 'net_%03d',
});

let dir: string;
let wanted: string[];
let server: RunningServer;
const renders = (): string => join(dir, 'renders');

const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const nameOf = (frame: number): string => `net_${String(frame).padStart(3, '0')}.png`;
const framesIn = (folder: string): string[] =>
  existsSync(folder) ? readdirSync(folder).filter((name) => name.endsWith('.png')) : [];

/** Hashes of the pixels of frames, which are the same whoever made them. */
const hashes = (bytes: (frame: number) => Uint8Array): string[] =>
  Array.from({ length: LAST + 1 }, (_, f) => hashOf(decode(bytes(f)).data as Uint8Array));

beforeAll(async () => {
  dir = mkdtempSync(join(tmpdir(), 'vast-swarm-'));
  writeFileSync(join(dir, 'small.json'), piece);
  const args = ['--size', '320x180', '--oversample', '2', '--shutter', '90'];
  const frames = ['--frames', `0..${String(LAST)}`, '--out', join(dir, 'wanted/net_%03d.png')];
  const run = await vastSwarm('render', join(dir, 'small.json'), ...args, ...frames);
  expect([run.err, run.code]).toEqual(['', 0]);
  wanted = hashes((f) => readFileSync(join(dir, 'wanted', nameOf(f))));
});
beforeEach(async () => {
  server = await startServer(['--renders', renders(), '--threads', '2']);
});
afterEach(async () => {
  await ended();
  rmSync(renders(), { recursive: true, force: true });
});
afterAll(() => {
  rmSync(dir, { recursive: true });
});

async function ended(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
  const { child } = server;
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill(signal);
  await gone;
}

function ask(path: string, init: RequestInit = {}): Promise<Response> {
  return fetch(`${server.url}/api/renders${path}`, init);
}

async function add(change: Partial<RenderOrder> = {}): Promise<RenderJob> {
  const text = JSON.stringify({ ...order, ...change });
  const body = zipSync({ 'order.json': strToU8(text), 'piece.swarm.json': strToU8(piece) });
  const headers = { 'content-type': 'application/zip' };
  const answer = await ask('', { method: 'POST', headers, body });
  expect(answer.status).toBe(201);
  return (await answer.json()) as RenderJob;
}

async function listed(): Promise<RenderJob[]> {
  return ((await (await ask('')).json()) as { renders: RenderJob[] }).renders;
}

/** Waits until something is so of the only render. */
async function until(is: (job: RenderJob) => boolean): Promise<RenderJob> {
  for (;;) {
    const [job] = await listed();
    if (is(job!)) return job!;
    if (job!.state === 'failed') throw new Error(job!.problem ?? 'failed');
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

const made = ({ folder }: RenderJob): string => join(folder, 'made');
const isDone = ({ state }: RenderJob): boolean => state === 'done';

/** The process that renders. */
function renderer(job: RenderJob): number {
  const lock = readdirSync(made(job)).find((name) => name.endsWith('.lock'))!;
  return (JSON.parse(readFileSync(join(made(job), lock), 'utf8')) as { pid: number }).pid;
}

test('a render is ordered, watched, and its frames fetched; they are those of the command line', async () => {
  await add();
  const running = await until((job) => job.done > 2);
  expect(running).toMatchObject({ state: 'running', order: { name: 'Small' } });
  const job = await until(isDone);
  expect(job).toMatchObject({ done: LAST + 1, problem: null });
  const look = decode(new Uint8Array(await (await ask(`/${job.id}/look`)).arrayBuffer()));
  expect([look.width, look.height]).toEqual([320, 180]);
  const answer = await ask(`/${job.id}/made`);
  expect(answer.headers.get('content-disposition')).toMatch(/small-[0-9a-f]+\.zip/);
  const files = unzipSync(new Uint8Array(await answer.arrayBuffer()));
  expect(Object.keys(files).length).toBe(LAST + 2);
  expect(hashes((f) => files[nameOf(f)]!)).toEqual(wanted);
  expect((await ask(`/${job.id}`, { method: 'DELETE' })).status).toBe(204);
  expect(await listed()).toEqual([]);
  expect(existsSync(job.folder)).toBe(false);
});

test.each(swept([['SIGKILL'], ['SIGTERM']] as const, 0.4))(
  'a server that is ended by %s goes on with the frames that are there when it comes back',
  async (signal) => {
    const job = await add();
    await until(({ done }) => done > 3);
    await ended(signal);
    const there = framesIn(made(job)).length;
    expect(there).toBeGreaterThan(3);
    expect(there).toBeLessThan(LAST + 1);
    server = await startServer(['--renders', renders(), '--threads', '2']);
    await until(isDone);
    expect(hashes((f) => readFileSync(join(made(job), nameOf(f))))).toEqual(wanted);
  },
  60_000,
);

test('a renderer that dies is followed by another one', async () => {
  const job = await add();
  await until(({ done }) => done > 3);
  process.kill(renderer(job), 'SIGKILL');
  await until(isDone);
  expect(hashes((f) => readFileSync(join(made(job), nameOf(f))))).toEqual(wanted);
});

test('a pause ends the work and keeps the frames; a stretch that goes on makes the rest', async () => {
  const job = await add();
  await until(({ done }) => done > 3);
  const pid = renderer(job);
  await ask(`/${job.id}/pause`, { method: 'POST' });
  const paused = await until(({ state }) => state === 'paused');
  while (existsSync(`/proc/${String(pid)}`)) await new Promise((go) => setTimeout(go, 20));
  const there = framesIn(made(job)).length;
  expect(there).toBeGreaterThanOrEqual(paused.done);
  expect((await ask(`/${job.id}/retry`, { method: 'POST' })).status).toBe(400);
  await ask(`/${job.id}/go`, { method: 'POST' });
  await until(isDone);
  expect(hashes((f) => readFileSync(join(made(job), nameOf(f))))).toEqual(wanted);
});

test('what cannot be rendered fails with a reason', async () => {
  await add({ width: 16384, height: 16384, oversample: 4 });
  await expect(until(isDone)).rejects.toThrow(
    /Frames of 16384 × 16384 pixels would take .* of the engine's memory/,
  );
});

test('a video is made and fetched as one file', async () => {
  await add({ format: 'webm', quality: 'draft', last: 9 });
  const { id } = await until(isDone);
  const answer = await ask(`/${id}/made`);
  expect(answer.headers.get('content-disposition')).toMatch(/small-[0-9a-f]+\.webm/);
  const bytes = new Uint8Array(await answer.arrayBuffer());
  // The mark of Matroska files (RFC 9559, 8).
  expect([...bytes.subarray(0, 4)]).toEqual([0x1a, 0x45, 0xdf, 0xa3]);
});

test('pages of others are not answered, and one folder has one server', async () => {
  const foreign = await ask('', { headers: { origin: 'http://elsewhere.example' } });
  expect(foreign.status).toBe(403);
  expect((await ask('/none/pause', { method: 'POST' })).status).toBe(400);
  const first = server;
  server = await startServer(['--renders', renders()]);
  const answer = await ask('');
  expect(answer.status).toBe(503);
  expect(((await answer.json()) as { problem: string }).problem).toMatch(/There are no renders/);
  await ended();
  server = first;
  expect((await ask('')).status).toBe(200);
});
