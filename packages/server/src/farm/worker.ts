import type { FarmWorker } from '@vast-swarm/core/formats';
import { Worker, WaitingError, type Job } from 'bullmq';
import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { hostname, tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Redis } from 'ioredis';
import { firstOf } from '../firstOf';
import { hashOf } from '../hashOf';
import { whenInterrupted } from '../interrupted';
import { Refused } from '../refused';
import { goOnWhateverComes, say, tell } from '../say';
import { BUILD_HASH } from '../version';
import { makeFolder, writeWhole } from '../writeWhole';
import { blobOf, dropParts, partsOf, putParts } from './blobs';
import { FrameProcess, type Told } from './frameProcess';
import { ABOUT, keys, PREFIX, QUEUE, STAYS, taskSchema, type Said, type Task } from './messages';
import { Pace } from './pace';
import { connect } from './redis';
import { Seal } from './seal';

export interface WorkerOptions {
  queue: string;
  threads: number;
  /** Its name on the page. */
  name?: string;
  /** The file of the key that it shares with the server. */
  key?: string;
  /** Seconds without a sign after which its chunk is given to another worker. */
  lease: number;
}

/** This program; all of it is bundled into one file. */
const CLI = new URL('./cli.mjs', import.meta.url).pathname;
/** Milliseconds between two signs of life. */
const BEAT = 1000;
/** Frames that may wait for the server; then it is waited for. */
const MOST_WAITING = 32;

/** A worker: takes chunks of renders from a queue, one at a time, and hands their frames to the server. */
export async function worker({ queue, threads, name, key, lease }: WorkerOptions): Promise<void> {
  const seal = await Seal.from(key);
  const redis = await connect(queue, tell);
  const own: FarmWorker = {
    id: randomUUID().slice(0, 8),
    name: name ?? hostname(),
    threads,
    program: BUILD_HASH,
    at: null,
    made: 0,
    perSecond: 0,
  };
  try {
    await admitted(redis, own);
  } catch (error) {
    redis.disconnect();
    throw error;
  }
  const folder = await mkdtemp(join(tmpdir(), 'vast-swarm-worker-'));
  const frames = new FrameProcess(CLI, ['make-chunks', '--threads', String(threads)]);
  const bench = new Bench(redis, frames, folder, own, seal);
  const taking = new Worker(QUEUE, (job: Job, token) => bench.work(job, token!), {
    connection: redis.duplicate({ maxRetriesPerRequest: null }),
    prefix: PREFIX,
    lockDuration: 1000 * lease,
    stalledInterval: 500 * lease,
    // A chunk is given on as often as it has to be.
    maxStalledCount: 1000,
    drainDelay: 1,
  });
  // What is late, or was given to another: it is known there.
  taking.on('error', () => undefined);
  const end = async (): Promise<void> => {
    clearInterval(beat);
    frames.stop();
    await redis.del(keys.worker(own.id));
    await taking.close(true);
    await rm(folder, { recursive: true, force: true });
  };
  const beat = setInterval(() => {
    bench.beat().catch((error: unknown) => {
      if (!(error instanceof Refused)) return;
      tell(error.message);
      void end().finally(() => process.exit(1));
    });
  }, BEAT);
  whenInterrupted(end);
  goOnWhateverComes();
  say(`Worker ${own.name} waits for renders, with ${String(threads)} threads.`);
}

/** @throws Refused where the queue is of another program, which would make other pixels */
async function admitted(redis: Redis, { id, name, program }: FarmWorker): Promise<void> {
  const wanted = await redis.get(keys.build);
  if (wanted === null || wanted === program) return;
  const why = `it is of program ${program}, and the queue is of ${wanted}`;
  await redis.set(keys.refused(id), JSON.stringify({ name, why }), 'EX', STAYS.refused);
  throw new Refused(`Worker ${name} is refused: ${why}. Take the same version for both.`);
}

/** The frame at which an engine stands at the end of a task; below all where it only said what it is. */
function endOf(task: Task): number {
  if (task.task === 'states') return task.at.at(-1) ?? -Infinity;
  return task.leaves ? task.last : (task.wanted.at(-1) ?? -Infinity);
}

/** Where a worker does one task after the other. */
class Bench {
  private readonly pace = new Pace();
  private current: string | null = null;
  private looked = -BEAT;
  /** Where the task before has left the engine. */
  private stands: { render: string; frame: number } | null = null;

  constructor(
    private readonly redis: Redis,
    private readonly frames: FrameProcess,
    private readonly folder: string,
    private readonly own: FarmWorker,
    private readonly seal: Seal,
  ) {}

  /** Says that it is there, and whether what it does is still wanted. */
  async beat(): Promise<void> {
    const { redis, own } = this;
    own.perSecond = this.pace.perSecond;
    await redis.set(keys.worker(own.id), JSON.stringify(own), 'EX', STAYS.worker);
    if (this.current !== null && (await redis.exists(keys.halted(this.current))))
      this.frames.stop();
    else await admitted(redis, own);
  }

  /** @throws Error where it is none of ours */
  private taskIn({ data }: Job): Task {
    const read = taskSchema.safeParse(this.seal.opened(ABOUT.task, data));
    if (read.success) return read.data;
    throw new Error(`this is no task: ${firstOf(read.error, 'the task')}`);
  }

  async work(job: Job, token: string): Promise<void> {
    const { own } = this;
    const task = this.taskIn(job);
    if (task.program !== own.program) {
      await job.moveToWait(token);
      throw new WaitingError();
    }
    this.current = task.render;
    const frames = task.task === 'states' ? task.at : task.wanted;
    const [first, last] = [frames[0] ?? 0, frames.at(-1) ?? 0];
    own.at = { render: task.render, piece: task.order.name, task: task.task, first, last };
    await this.beat();
    try {
      const folder = await this.folderOf(task);
      const { stands } = this;
      this.stands = null;
      const here = stands?.render === task.render && stands.frame === task.begin?.frame;
      const resumes = here && this.frames.isThere;
      const state = resumes ? null : await this.stateOf(task, folder);
      await this.frames.run({ task, folder, state, resumes }, (told) => this.passOn(task, told));
      this.stands = { render: task.render, frame: endOf(task) };
    } finally {
      this.current = null;
      own.at = null;
    }
  }

  private ownFolder(render: string): string {
    return join(this.folder, hashOf(render).slice(0, 16));
  }

  /** The piece and its stock in a folder, one for each render; that of the one before is gone then. */
  private async folderOf(task: Task): Promise<string> {
    const folder = this.ownFolder(task.render);
    if (existsSync(join(folder, 'piece.swarm.json'))) return folder;
    await rm(this.folder, { recursive: true, force: true });
    await makeFolder(join(folder, 'stock'));
    for (const [name, hash] of Object.entries(task.stock)) {
      await writeWhole(join(folder, 'stock', name), await blobOf(this.redis, hash));
    }
    await writeWhole(join(folder, 'piece.swarm.json'), await blobOf(this.redis, task.piece));
    return folder;
  }

  private async stateOf({ render, begin }: Task, folder: string): Promise<string | null> {
    if (begin === null) return null;
    const key = keys.state(render, begin.frame);
    const bytes = await partsOf(this.redis, key);
    if (!bytes) throw new Error('the state that it begins from is not in the queue any more');
    if (hashOf(bytes) !== begin.sum) {
      // It is made again where it is not there.
      await dropParts(this.redis, key);
      throw new Error('the state that it begins from came damaged');
    }
    const path = join(folder, 'begin.state');
    await writeWhole(path, bytes);
    return path;
  }

  private async showLook(render: string): Promise<void> {
    const now = performance.now();
    if (now - this.looked < BEAT) return;
    this.looked = now;
    const look = await readFile(join(this.ownFolder(render), 'look.png')).catch(() => null);
    if (!look) return;
    const sealed = this.seal.sealedBytes(ABOUT.look(render), look);
    await this.redis.set(keys.look(render), sealed, 'EX', STAYS.frame);
  }

  /** Passes what was made on to the server, by way of the queue. */
  private async passOn({ render }: Task, told: Told): Promise<void> {
    const { redis, own } = this;
    const tellServer = async (said: Said): Promise<void> => {
      const sealed = this.seal.sealed(ABOUT.said(render), said);
      await redis.rpush(keys.said(render), JSON.stringify(sealed));
    };
    if ('about' in told) await tellServer({ said: 'about', ...told.about });
    else if ('state' in told) {
      const bytes = await readFile(told.path);
      await putParts(redis, keys.state(render, told.state), bytes, STAYS.state);
      await rm(told.path, { force: true });
      await tellServer({ said: 'state', frame: told.state, sum: hashOf(bytes) });
    } else if ('frame' in told) {
      const bytes = await readFile(told.path);
      const name = `${own.id}:${randomUUID()}`;
      while ((await redis.llen(keys.said(render))) > MOST_WAITING) {
        await new Promise((resolve) => setTimeout(resolve, BEAT));
      }
      await putParts(redis, keys.frame(name), bytes, STAYS.frame);
      await rm(told.path, { force: true });
      const { length } = bytes;
      const sum = hashOf(bytes);
      await tellServer({
        said: 'frame',
        frame: told.frame,
        name,
        bytes: length,
        sum,
        by: own.name,
      });
      this.pace.one();
      own.made += 1;
      await this.showLook(render);
    }
  }
}
