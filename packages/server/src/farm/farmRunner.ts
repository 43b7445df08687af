import { numbered, type RenderJob } from '@vast-swarm/core/formats';
import type { StillFormat } from '@vast-swarm/core/formats';
import { randomUUID } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { openFolder } from '../deliver/frameFolder';
import { makingOf } from '../deliver/open';
import { stampIn, type FramesMade } from '../deliver/stamp';
import { targetOf, type Target } from '../deliver/target';
import { isVideo } from '@vast-swarm/core/formats';
import { hashOf } from '../hashOf';
import { hashedPiece } from '../load';
import { lookOf, outOf, pieceOf } from '../queue/jobFolder';
import type { Outcome, Run, Runner, Step } from '../queue/runner';
import { Refused } from '../refused';
import { BUILD_HASH } from '../version';
import { writeWhole } from '../writeWhole';
import { dropParts, partsOf, putBlob } from './blobs';
import { chunksOf, missingIn, turnOf, type Chunk } from './chunks';
import { jsonIn } from '../jsonIn';
import type { Farm } from './farm';
import { ABOUT, keys, saidSchema, type Said, type Task } from './messages';
import { Pace } from './pace';

/** Milliseconds between two times that workers are heard, and between two looks at what has become of their tasks. */
const TICK = 40;
const LOOK = 500;
/** A chunk is tried so often before the render counts as failed. */
const TRIES = 3;
/** Seconds that what has ended stays known in the queue. */
const AFTER = 3600;
/** Milliseconds after which a render that is stopped counts as ended. */
const PATIENCE = 2000;
/** Milliseconds between two pictures of how far it is. */
const LOOKS = 1000;

type Frames = Target & { kind: 'frames' };

/** Renders by the workers of a queue; videos, which are made in one go, by another runner. */
export function farmRunner(farm: Farm, videos: Runner): Runner {
  return (job, step) => {
    if (isVideo(job.order.format)) return videos(job, step);
    const run = new FarmRun(farm, job, step);
    let leave: (outcome: Outcome) => void;
    const left = new Promise<Outcome>((resolve) => (leave = resolve));
    return {
      ended: Promise.race([run.go(), left]),
      stop: () => {
        run.halted = true;
        // A queue that is gone is not waited for.
        setTimeout(() => {
          leave({ made: false, problem: '' });
        }, PATIENCE).unref();
      },
      chunks: () => run.shown(),
    };
  };
}

/** A task that is in the queue. */
interface Open {
  chunk: Chunk | null;
  content: Task;
}

class FarmRun {
  halted = false;
  /** Tells the tasks of this run from those of one before, which may still be at work. */
  private readonly name = randomUUID().slice(0, 6);
  private count = 0;
  private readonly chunks: readonly Chunk[];
  private readonly open = new Map<string, Open>();
  /** Hashes of the states that are kept, by the frame at whose end they stand. */
  private readonly states = new Map<number, string>();
  /** Whether something came that is not sealed with the key. */
  private foreign = false;
  private readonly tries = new Map<string, number>();
  private remembers: boolean | null = null;
  private there = new Set<number>();
  private total = 0;
  private readonly pace = new Pace();
  private looked = -LOOKS;
  private made: FramesMade | null = null;
  private blobs: { piece: string; stock: Record<string, string> } = { piece: '', stock: {} };

  constructor(
    private readonly farm: Farm,
    private readonly job: RenderJob,
    private readonly step: (step: Step) => void,
  ) {
    this.chunks = chunksOf(job.order.first, job.order.last);
  }

  private get missing(): number {
    return this.chunks.reduce((sum, c) => sum + missingIn(c, this.there).length, 0);
  }

  shown(): NonNullable<ReturnType<NonNullable<Run['chunks']>>> {
    return this.chunks.map((c) => {
      return { ...c, made: c.last - c.first + 1 - missingIn(c, this.there).length };
    });
  }

  async go(): Promise<Outcome> {
    const { job } = this;
    const { first, last, alpha } = job.order;
    const format = job.order.format as StillFormat;
    const target = targetOf(outOf(job), format, last - first + 1) as Frames;
    const piece = await hashedPiece(pieceOf(job), job.order.shutter);
    this.made = makingOf(piece, { ...job.order, format, passes: job.order.layers });
    const still = { format, alpha, rate: piece.frame.rate };
    const folder = await openFolder({
      ...target,
      made: this.made,
      still,
      first,
      last,
      resume: true,
    });
    try {
      for (let f = first; f <= last; f++) if (folder.has(f)) this.there.add(f);
      this.total = this.missing;
      await this.forgetBefore();
      await this.bring();
      let looked = -Infinity;
      while (!this.halted && this.missing > 0) {
        const heard = await this.hear(target);
        const now = performance.now();
        if (heard || now - looked > LOOK) {
          await this.lookAtTasks(target);
          await this.giveOut();
          looked = now;
        }
        await new Promise((resolve) => setTimeout(resolve, TICK));
      }
      return this.halted ? { made: false, problem: '' } : { made: true };
    } finally {
      await folder.finish();
      // It does not wait for a queue that is gone.
      this.clear().catch(() => undefined);
    }
  }

  /** Removes what a server before has left in the queue of this render. */
  private async forgetBefore(): Promise<void> {
    const { redis, queue } = this.farm;
    const { id } = this.job;
    await redis.del(keys.halted(id), keys.said(id));
    for (const task of await queue.getJobs(['waiting', 'prioritized'])) {
      if (task.id!.startsWith(`${id}-`)) await queue.remove(task.id!);
    }
  }

  /** The piece and its stock go into the queue, where workers find them by their hashes. */
  private async bring(): Promise<void> {
    const { redis } = this.farm;
    const path = pieceOf(this.job);
    const put = async (file: string): Promise<string> => {
      const bytes = await readFile(file);
      const hash = hashOf(bytes);
      await putBlob(redis, hash, bytes);
      return hash;
    };
    const stock = join(dirname(path), 'stock');
    const names = await readdir(stock).catch(() => []);
    const files: Record<string, string> = {};
    for (const name of names) files[name] = await put(join(stock, name));
    this.blobs = { piece: await put(path), stock: files };
  }

  /** Puts into the queue what can be begun. */
  private async giveOut(): Promise<void> {
    const workers = await this.farm.workers();
    const { there, remembers } = this;
    const states = new Set(this.states.keys());
    const turn = turnOf(this.chunks, { there, states, remembers, workers: workers.length });
    const openOf = (task: Task['task']): Open[] =>
      [...this.open.values()].filter((o) => o.content.task === task);
    const [frames, ahead] = [openOf('frames'), openOf('states')];
    if (turn.states.length > 0 && ahead.length === 0) await this.addStates(turn.states);
    for (const chunk of turn.chunks) {
      if (!frames.some((o) => o.chunk === chunk)) await this.addChunk(chunk, ahead.length === 0);
    }
  }

  private common(begin: number | null): Omit<Task, 'task' | 'at'> {
    const { id, order } = this.job;
    const from = begin === null ? null : { frame: begin, sum: this.states.get(begin)! };
    return { render: id, program: BUILD_HASH, order, ...this.blobs, begin: from };
  }

  private async addChunk(chunk: Chunk, alone: boolean): Promise<void> {
    const begin = chunk === this.chunks[0] ? null : chunk.first - 1;
    if (begin !== null && !(await this.isKept(begin))) return;
    const wanted = missingIn(chunk, this.there);
    // Only asked what it is.
    const asks = this.remembers === null && wanted.length === 0;
    const next = chunk.last < this.job.order.last && !this.states.has(chunk.last);
    const leaves = next && !asks && (alone || this.remembers === true);
    const { last } = chunk;
    await this.add(chunk, {
      ...this.common(begin),
      task: 'frames',
      wanted,
      last,
      leaves,
    });
  }

  private async addStates(at: readonly number[]): Promise<void> {
    const from = [...this.states.keys()].filter((f) => f < at[0]!);
    const begin = from.length > 0 ? Math.max(...from) : null;
    if (begin !== null && !(await this.isKept(begin))) return;
    await this.add(null, { ...this.common(begin), task: 'states', at: [...at] });
  }

  /** A queue that was begun anew may have lost it. */
  private async isKept(frame: number): Promise<boolean> {
    const kept = (await this.farm.redis.exists(keys.state(this.job.id, frame))) > 0;
    if (!kept) this.states.delete(frame);
    return kept;
  }

  private async add(chunk: Chunk | null, content: Task): Promise<void> {
    const id = `${this.job.id}-${this.name}-${String((this.count += 1))}`;
    this.open.set(id, { chunk, content });
    await this.give(id, content);
  }

  private async give(id: string, content: Task): Promise<void> {
    const age = { age: AFTER };
    // Motion first: others wait for it.
    const priority = content.task === 'states' ? 1 : 2;
    const options = { jobId: id, priority, removeOnComplete: age, removeOnFail: age };
    const { queue, seal } = this.farm;
    await queue.add(content.task, seal.sealed(ABOUT.task, content), options);
  }

  /** Looks what has become of the tasks in the queue. */
  private async lookAtTasks(target: Frames): Promise<void> {
    for (const [id, open] of this.open) {
      const job = await this.farm.queue.getJob(id);
      if (!job) {
        // The queue was begun anew and has lost it.
        await this.bring();
        await this.give(id, open.content);
        continue;
      }
      const state = await job.getState();
      if (state !== 'completed' && state !== 'failed') continue;
      // What it made has been said before it ended.
      await this.hear(target);
      if (state === 'completed') this.ended(id, open, null);
      else this.ended(id, open, job.failedReason);
    }
  }

  /** @param why it came to nothing; null where it did not */
  private ended(id: string, { chunk, content }: Open, why: string | null): void {
    this.open.delete(id);
    const lacks = chunk ? missingIn(chunk, this.there) : [];
    const key = chunk ? String(chunk.first) : content.task;
    if (why === null && lacks.length === 0) return;
    const tries = (this.tries.get(key) ?? 0) + 1;
    this.tries.set(key, tries);
    if (tries < TRIES) return;
    const what = chunk ? `Frames ${String(chunk.first)} to ${String(chunk.last)}` : 'The motion';
    const came = this.foreign
      ? 'were sealed with another key; server and workers take the same --key'
      : 'came damaged';
    const reason = why ?? `${String(lacks.length)} of them ${came}`;
    throw new Refused(`${what} came to nothing ${String(tries)} times: ${reason}.`);
  }

  /** Takes what workers have said; whether there was something that lets others begin. */
  private async hear(target: Frames): Promise<boolean> {
    const { redis } = this.farm;
    for (let news = false; ;) {
      const text = await redis.lpop(keys.said(this.job.id));
      if (text === null) return news;
      const said = this.saidIn(text);
      if (!said) continue;
      await this.take(target, said);
      news ||= said.said !== 'frame';
    }
  }

  /** A worker's message; null where it is of somebody else. */
  private saidIn(text: string): Said | null {
    try {
      const given = this.farm.seal.opened(ABOUT.said(this.job.id), jsonIn(text));
      return saidSchema.parse(given);
    } catch {
      if (!this.foreign)
        this.farm.tell(`${this.job.order.name}: a message that no worker sealed was left aside.`);
      this.foreign = true;
      return null;
    }
  }

  private async take(target: Frames, said: Said): Promise<void> {
    if (said.said === 'about') this.remembers = said.remembers;
    else if (said.said === 'state') this.states.set(said.frame, said.sum);
    else await this.takeFrame(target, said);
  }

  /** A frame is kept where it is whole and what it should be, and is not there yet; others are made again. */
  private async takeFrame(
    { folder, pattern }: Frames,
    said: Said & { said: 'frame' },
  ): Promise<void> {
    const { redis } = this.farm;
    const { frame } = said;
    const key = keys.frame(said.name);
    const late = this.there.has(frame);
    const bytes = late ? null : await partsOf(redis, key);
    await dropParts(redis, key);
    if (!bytes || bytes.length !== said.bytes || hashOf(bytes) !== said.sum) return;
    if (!isOf(bytes, frame, this.made!)) return;
    await writeWhole(join(folder, numbered(pattern, frame)), bytes);
    this.there.add(frame);
    this.pace.one();
    await this.tellStep(frame);
  }

  private async tellStep(frame: number): Promise<void> {
    const { missing, total } = this;
    const { perSecond } = this.pace;
    const secondsLeft = perSecond > 0 ? missing / perSecond : 0;
    this.step({ frame, done: total - missing, total, perSecond, secondsLeft });
    const now = performance.now();
    if (now - this.looked < LOOKS) return;
    this.looked = now;
    const { redis, seal } = this.farm;
    const { id } = this.job;
    const look = seal.openedBytes(ABOUT.look(id), await redis.getBuffer(keys.look(id)));
    if (look) await writeWhole(lookOf(this.job), look);
  }

  /** Nothing of it stays in the queue; workers that are at it are told to leave it. */
  private async clear(): Promise<void> {
    const { redis, queue } = this.farm;
    const { id } = this.job;
    if (this.open.size > 0) await redis.set(keys.halted(id), 1, 'EX', AFTER);
    for (const task of this.open.keys()) await queue.remove(task);
    for (const frame of this.states.keys()) await dropParts(redis, keys.state(id, frame));
    await redis.del(keys.said(id), keys.look(id));
  }
}

/** Whether bytes are a frame of a number and of a making. */
function isOf(bytes: Buffer, frame: number, made: FramesMade): boolean {
  const stamp = stampIn(bytes);
  return (
    stamp?.frame === frame &&
    stamp.bytes === bytes.length &&
    Object.entries(made).every(([key, value]) => stamp.made[key] === value)
  );
}
