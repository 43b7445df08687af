import type { ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { makePart, pieceText, type Piece } from '@vast-swarm/core/piece';
import type { FarmWorker, RenderJob } from '@vast-swarm/core/formats';
import { strToU8, zipSync } from 'fflate';
import { Queue } from 'bullmq';
import { Redis } from 'ioredis';
import { vastSwarm } from '../../../tests/support/commandLine';
import { smallOrder } from '../../../tests/support/orders';
import { smallPiece } from '../../../tests/support/pieces';
import { freePort, RunningRedis } from '../../../tests/support/startRedis';
import { startServer, startWorker, type RunningServer } from '../../../tests/support/startServer';
import { ABOUT, keys, PREFIX, QUEUE } from '../src/farm/messages';
import { Seal } from '../src/farm/seal';

/** Renders by several workers: whatever becomes of these, or of the queue, the frames are those of one process. */

const SIZE = [256, 144] as const;
const LAST = 59;
/** Seconds. */
const LEASE = 2;

let dir: string;
let redis: RunningRedis;
let server: RunningServer;
const children: ChildProcess[] = [];

beforeAll(async () => {
  dir = mkdtempSync(join(tmpdir(), 'vast-swarm-'));
  redis = await RunningRedis.start();
  server = await startServer(['--renders', join(dir, 'renders'), '--queue', redis.url]);
});
afterAll(async () => {
  server.child.kill();
  await redis.remove();
  rmSync(dir, { recursive: true, force: true });
});
afterEach(() => {
  for (const child of children.splice(0)) child.kill('SIGKILL');
});

async function worker(name: string): Promise<ChildProcess> {
  const child = await startWorker(redis.url, name, LEASE);
  children.push(child);
  return child;
}

const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** The frames of a folder, by their names. */
const framesIn = (folder: string): Record<string, string> =>
  Object.fromEntries(
    readdirSync(folder)
      .sort()
      .map((name) => [name, hashOf(readFileSync(join(folder, name)))]),
  );

/** What one process makes of a piece: the same files, each with what it says of itself. */
async function byOne(name: string, piece: Piece): Promise<Record<string, string>> {
  const file = join(dir, `${name}.json`);
  writeFileSync(file, pieceText(piece));
  const size = ['--size', SIZE.join('x'), '--oversample', '2', '--shutter', '0'];
  const out = ['--frames', `0..${String(LAST)}`, '--out', join(dir, name, 'net_%03d.png')];
  const run = await vastSwarm('render', file, ...size, ...out);
  expect([run.err, run.code]).toEqual(['', 0]);
  return framesIn(join(dir, name));
}

async function order(piece: Piece): Promise<RenderJob> {
  const asked = {
    name: piece.name,
    format: 'png',
    quality: 'good',
    alpha: false,
    layers: [],
    width: SIZE[0],
    height: SIZE[1],
    first: 0,
    last: LAST,
    oversample: 2,
    shutter: 0,
    frames: 'net_%03d',
  };
  const body = zipSync({
    'order.json': strToU8(JSON.stringify(asked)),
    'piece.swarm.json': strToU8(pieceText(piece)),
  });
  const headers = { 'content-type': 'application/zip' };
  const answer = await fetch(`${server.url}/api/renders`, { method: 'POST', headers, body });
  expect(answer.status).toBe(201);
  return (await answer.json()) as RenderJob;
}

async function look(): Promise<{ renders: RenderJob[]; workers: FarmWorker[] }> {
  return (await (await fetch(`${server.url}/api/renders`)).json()) as Awaited<
    ReturnType<typeof look>
  >;
}

/** Asks again and again until a render stands as is wanted. */
async function stands({ id }: RenderJob, wanted: (job: RenderJob) => boolean): Promise<RenderJob> {
  for (;;) {
    const job = (await look()).renders.find((r) => r.id === id)!;
    if (wanted(job)) return job;
    if (job.state === 'failed') throw new Error(job.problem ?? 'failed');
    // Who asks without a pause takes the time of those who work.
    await setTimeout(30);
  }
}

const heavy = (change: (piece: Piece) => void = () => undefined): Piece =>
  smallPiece((p) => {
    p.swarms[0]!.dials.rate = 6000;
    change(p);
  });

test('a worker dies, one hangs, the queue is begun again: the frames are those of one process', async () => {
  const piece = heavy();
  const wanted = await byOne('plain', piece);
  const [doomed, hung] = [await worker('anna'), await worker('ben')];
  await worker('carl');
  const job = await order(piece);
  await stands(job, ({ done }) => done >= 8);
  doomed.kill('SIGKILL');
  await stands(job, ({ done }) => done >= 16);
  hung.kill('SIGSTOP');
  await stands(job, ({ done }) => done >= 24);
  await redis.end();
  await redis.begin();
  await stands(job, ({ done }) => done >= 40);
  // What it comes with now is late.
  hung.kill('SIGCONT');
  const { folder, done } = await stands(job, ({ state }) => state === 'done');
  expect(done).toBe(LAST + 1);
  expect(framesIn(join(folder, 'made'))).toEqual(wanted);
}, 180_000);

test('a finish that remembers is made chunk by chunk, by whoever is there', async () => {
  const piece = heavy((p) => p.finish.push(makePart('finish', 'feedback', [])));
  const wanted = await byOne('remembering', piece);
  const first = await worker('anna');
  await worker('ben');
  const job = await order(piece);
  const { chunks } = await stands(job, ({ done: made }) => made >= 10);
  expect(chunks!.length).toBe(8);
  first.kill('SIGKILL');
  const { folder } = await stands(job, ({ state }) => state === 'done');
  expect(framesIn(join(folder, 'made'))).toEqual(wanted);
}, 180_000);

test('a frame that came damaged is made again; workers and what they do can be seen', async () => {
  const piece = heavy((p) => (p.seed = 7));
  const wanted = await byOne('damaged', piece);
  await worker('anna');
  const job = await order(piece);
  await stands(job, ({ done }) => done >= 4);
  const { workers } = await look();
  expect(workers.map((w) => [w.name, w.threads, w.at?.render])).toContainEqual(['anna', 1, job.id]);
  // Between worker and server a frame's bytes are changed.
  const own = new Redis(redis.url);
  let harmed = 0;
  while (harmed < 3) {
    const names = await own.keys(`${keys.frame('*')}:0`);
    for (const name of names) {
      // XX: only what has not been fetched meanwhile.
      if (await own.set(name, 'rubbish', 'XX')) harmed += 1;
    }
  }
  own.disconnect();
  const { folder } = await stands(job, ({ state }) => state === 'done');
  expect(framesIn(join(folder, 'made'))).toEqual(wanted);
}, 180_000);

test('a paused render leaves the workers, and goes on from what is there', async () => {
  const piece = heavy((p) => (p.seed = 8));
  const wanted = await byOne('paused', piece);
  await worker('anna');
  const job = await order(piece);
  await stands(job, ({ done }) => done >= 6);
  await fetch(`${server.url}/api/renders/${job.id}/pause`, { method: 'POST' });
  for (;;) {
    const { workers } = await look();
    if (workers.every((w) => w.at === null)) break;
  }
  await fetch(`${server.url}/api/renders/${job.id}/go`, { method: 'POST' });
  const { folder } = await stands(job, ({ state }) => state === 'done');
  expect(framesIn(join(folder, 'made'))).toEqual(wanted);
}, 180_000);

test('a server that is killed goes on with its workers when it is begun again', async () => {
  const piece = heavy((p) => (p.seed = 9));
  const wanted = await byOne('begun again', piece);
  await worker('anna');
  const job = await order(piece);
  await stands(job, ({ done }) => done >= 6);
  const gone = new Promise((resolve) => server.child.once('exit', resolve));
  server.child.kill('SIGKILL');
  await gone;
  server = await startServer(['--renders', join(dir, 'renders'), '--queue', redis.url]);
  const { folder } = await stands(job, ({ state }) => state === 'done');
  expect(framesIn(join(folder, 'made'))).toEqual(wanted);
}, 180_000);

test('what strangers put into the queue is neither done nor kept, with a key and without', async () => {
  const key = join(dir, 'key');
  const other = join(dir, 'other');
  writeFileSync(key, 'k'.repeat(32));
  writeFileSync(other, 'l'.repeat(32));
  const renders = ['--renders', join(dir, 'renders of the keyed')];
  const keyed = await startServer([...renders, '--queue', redis.url, '--key', key]);
  const before = server;
  server = keyed;
  let told = '';
  keyed.child.stderr!.on('data', (data: Buffer) => (told += data.toString()));
  const own = new Redis(redis.url);
  const queue = new Queue(QUEUE, { connection: own.duplicate(), prefix: PREFIX });
  try {
    const piece = heavy((p) => (p.seed = 10));
    const wanted = await byOne('keyed', piece);
    // Of no seal at all, and of one without a key; one that would be outside of the worker's folder.
    const evil = {
      task: 'frames',
      render: '../../evil',
      program: (await own.get(keys.build))!,
      order: smallOrder(),
      piece: 'a'.repeat(64),
      stock: {},
      begin: null,
      wanted: [0],
      last: 0,
      leaves: false,
    };
    await queue.add('frames', evil, { jobId: 'evil-1', priority: 1 });
    const sealed = new Seal().sealed(ABOUT.task, evil);
    await queue.add('frames', sealed, { jobId: 'evil-2', priority: 1 });
    // Those that were killed in tests before stand there for some seconds.
    for (const gone of await own.keys(keys.worker('*'))) await own.del(gone);
    await own.set(keys.worker('evil'), 'no JSON');
    await own.set(keys.refused('evil'), '{"name": 3}');
    const job = await order(piece);
    children.push(await startWorker(redis.url, 'anna', LEASE, ['--key', key]));
    // A frame that no worker has made.
    const forged = {
      said: 'frame',
      frame: 3,
      name: 'evil',
      bytes: 7,
      sum: hashOf(strToU8('rubbish')),
    };
    await own.set(keys.frame('evil'), 1);
    await own.set(`${keys.frame('evil')}:0`, 'rubbish');
    for (const by of [
      '{',
      '[]',
      JSON.stringify(forged),
      JSON.stringify(new Seal().sealed(ABOUT.said(job.id), forged)),
    ])
      await own.lpush(keys.said(job.id), by);
    const { folder } = await stands(job, ({ state }) => state === 'done');
    expect(framesIn(join(folder, 'made'))).toEqual(wanted);
    for (const id of ['evil-1', 'evil-2'])
      expect((await queue.getJob(id))!.failedReason).toMatch(/not sealed with the key/);
    expect((await look()).workers.map((w) => w.name)).toEqual(['anna']);
    expect(told).toContain('a message that no worker sealed was left aside');
    // A worker with another key gets nowhere, and the render says why.
    for (const child of children.splice(0)) child.kill('SIGKILL');
    children.push(await startWorker(redis.url, 'olga', LEASE, ['--key', other]));
    const second = await order(heavy((p) => (p.seed = 11)));
    await expect(stands(second, ({ state }) => state === 'done')).rejects.toThrow(
      /server and workers take the same --key/,
    );
    // Without a key what is sealed is let in, and has to be a task.
    for (const child of children.splice(0)) child.kill('SIGKILL');
    await worker('vera');
    await queue.add('frames', sealed, { jobId: 'evil-3', priority: 1 });
    let why: string | undefined;
    while (!why) {
      await setTimeout(30);
      why = (await queue.getJob('evil-3'))!.failedReason;
    }
    expect(why).toBe('this is no task: render: no name of a render');
  } finally {
    server = before;
    keyed.child.kill();
    await queue.close();
    own.disconnect();
  }
}, 180_000);

test('a worker of another version is refused by name; a queue that is not there is said', async () => {
  const own = new Redis(redis.url);
  const program = (await own.get(keys.build))!;
  await own.set(keys.build, 'ffffffff');
  const refused = await vastSwarm('worker', '--queue', redis.url, '--name', 'olga');
  await own.set(keys.build, program);
  own.disconnect();
  expect(refused.code).toBe(1);
  expect(refused.err).toBe(
    `Worker olga is refused: it is of program ${program}, and the queue is of ffffffff. Take the same version for both.\n`,
  );
  const nowhere = `redis://127.0.0.1:${String(await freePort())}`;
  for (const args of [['worker'], ['serve', '--port', '0', '--renders', join(dir, 'none')]]) {
    const run = await vastSwarm(...args, '--queue', nowhere);
    expect([run.code, run.out]).toEqual([1, '']);
    expect(run.err).toContain(`There is no queue at ${nowhere} (`);
    expect(run.err).toContain('Start Redis there, or leave --queue out.');
  }
  expect((await vastSwarm('worker', '--queue', 'nonsense')).err).toContain(
    'this is no address of a queue',
  );
});
