import { byTurn, canAct, frameCount, type JobAct, type RenderJob } from '@vast-swarm/core/formats';
import { Refused } from '../refused';
import { jobsIn, keepJob, newJob, removeJob } from './jobFolder';
import type { Outcome, Run, Runner, Step } from './runner';

/**
 * Renders in a list: so many at once, those of the highest priority first. How they stand is kept in their folders, so that
 * a server that comes back goes on with them.
 */
export class RenderQueue {
  private readonly jobs = new Map<string, RenderJob>();
  private readonly runs = new Map<string, Run>();
  /** Writes in progress, by render: one behind the other. */
  private readonly keeping = new Map<string, Promise<void>>();
  private closed = false;

  private constructor(
    private readonly folder: string,
    private readonly runner: Runner,
    private readonly tell: (text: string) => void,
    private readonly atOnce: number,
  ) {}

  static async open(
    folder: string,
    runner: Runner,
    tell: (text: string) => void,
    atOnce = 1,
  ): Promise<RenderQueue> {
    const queue = new RenderQueue(folder, runner, tell, atOnce);
    for (const job of await jobsIn(folder, tell)) {
      // What ran when the server ended goes on.
      const state = job.state === 'running' ? 'waiting' : job.state;
      queue.jobs.set(job.id, { ...job, state });
    }
    queue.next();
    return queue;
  }

  /** In the order of their turns. */
  list(): RenderJob[] {
    return [...this.jobs.values()].sort(byTurn).map((job) => {
      const chunks = this.runs.get(job.id)?.chunks?.();
      return chunks ? { ...job, chunks } : job;
    });
  }

  job(id: string): RenderJob | undefined {
    return this.jobs.get(id);
  }

  /**
   * @param bytes of an order, see renderOrder.ts
   * @throws Refused that says what is wrong with it
   */
  async add(bytes: Uint8Array): Promise<RenderJob> {
    const job = await newJob(this.folder, bytes);
    this.jobs.set(job.id, job);
    this.next();
    return job;
  }

  /** @throws Refused where the render is not there, or this cannot be done with it as it stands */
  act(id: string, act: JobAct): RenderJob {
    const job = this.known(id);
    if (!canAct(job, act)) throw new Refused(`This render is ${job.state}: it cannot be '${act}'.`);
    switch (act) {
      case 'pause':
        return this.halt(job, 'paused');
      case 'cancel':
        return this.halt(job, 'cancelled');
      case 'go':
        return this.put(id, { state: 'waiting' });
      case 'retry':
        return this.put(id, { state: 'waiting', problem: null, ended: null });
      case 'sooner':
        return this.put(id, { priority: job.priority + 1 });
      case 'later':
        return this.put(id, { priority: job.priority - 1 });
    }
  }

  /** @throws Refused where the render is not there */
  async remove(id: string): Promise<void> {
    const job = this.known(id);
    const run = this.runs.get(id);
    this.jobs.delete(id);
    run?.stop();
    await run?.ended;
    await this.keeping.get(id)?.catch(() => undefined);
    await removeJob(job);
    this.next();
  }

  /** Ends what runs; it goes on when the queue is opened again. */
  async close(): Promise<void> {
    this.closed = true;
    for (const run of this.runs.values()) run.stop();
    await Promise.all([...this.runs.values()].map((run) => run.ended));
    await Promise.all(this.keeping.values());
  }

  private known(id: string): RenderJob {
    const job = this.jobs.get(id);
    if (!job) throw new Refused('There is no render of that name here.');
    return job;
  }

  private halt({ id }: RenderJob, state: 'paused' | 'cancelled'): RenderJob {
    const ended = state === 'cancelled' ? Date.now() : null;
    const job = this.put(id, { state, ended, perSecond: 0, secondsLeft: null });
    this.runs.get(id)?.stop();
    return job;
  }

  /** Changes how a render stands, and keeps it. */
  private put(id: string, part: Partial<RenderJob>): RenderJob {
    const job = { ...this.known(id), ...part };
    this.jobs.set(id, job);
    const before = this.keeping.get(id) ?? Promise.resolve();
    const kept = before
      .then(() => (this.jobs.has(id) ? keepJob(job) : undefined))
      .catch((error: unknown) => {
        this.tell(`${job.order.name}: ${error instanceof Error ? error.message : String(error)}`);
      });
    this.keeping.set(id, kept);
    this.next();
    return job;
  }

  /** Begins what may begin. */
  private next(): void {
    if (this.closed) return;
    for (const job of this.list()) {
      if (this.runs.size >= this.atOnce) return;
      // One that was halted may not have ended yet.
      if (job.state === 'waiting' && !this.runs.has(job.id)) this.begin(job);
    }
  }

  private begin({ id }: RenderJob): void {
    const run = this.runner(this.known(id), (step) => {
      this.step(id, step);
    });
    const ended = run.ended.catch((error: unknown): Outcome => {
      return { made: false, problem: error instanceof Error ? error.message : String(error) };
    });
    this.runs.set(id, { ...run, ended });
    this.put(id, { state: 'running', perSecond: 0, secondsLeft: null });
    void ended.then((outcome) => {
      this.runs.delete(id);
      if (this.jobs.get(id)?.state === 'running' && !this.closed) this.end(id, outcome);
      this.next();
    });
  }

  private step(id: string, { frame, done, total, perSecond, secondsLeft }: Step): void {
    const job = this.jobs.get(id);
    if (job?.state !== 'running') return;
    // What was there before counts too.
    const there = frameCount(job.order) - total + done;
    this.jobs.set(id, { ...job, frame, done: there, perSecond, secondsLeft });
  }

  private end(id: string, outcome: Outcome): void {
    const { order } = this.known(id);
    const ended = { ended: Date.now(), perSecond: 0, secondsLeft: null };
    if (outcome.made) {
      this.put(id, { ...ended, state: 'done', done: frameCount(order) });
    } else this.put(id, { ...ended, state: 'failed', problem: outcome.problem });
  }
}
