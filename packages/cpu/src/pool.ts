import { reportProgress } from '@vast-swarm/core/progress';
import {
  ARG,
  BEATS,
  CONTROL_BYTES,
  DONE,
  FAILED,
  GENERATION,
  JOB,
  KERNEL,
  LOAD,
  NEXT,
  QUIT,
  RASTER,
  RASTER_FUNCTIONS,
  TARGET,
  TASKS,
  type RasterFunction,
} from './control';
import { Crew } from './crew';
import { RASTERISER } from './generated/rasteriser';
import { THREAD } from './generated/thread';
import { startThread, type Helper } from './startThread';

/** Lanes a kernel task takes; small enough to share evenly, large enough not to notice. */
const GRAIN = 4096;

/** Pages of 64 KiB: 2 GiB. Renders may ask for all that there can be. */
export const USUAL_PAGES = 32768;

/** Looks this often whether the helpers are done before it sleeps. */
const SPINS = 6000;

/** A thread stopped answering, or failed: the state is not to be trusted any more. */
export class PoolFailure extends Error {
  override readonly name = 'PoolFailure';
}

function decode(base64: string): Uint8Array<ArrayBuffer> {
  const binary = atob(base64);
  return Uint8Array.from(binary, (c) => c.charCodeAt(0));
}

/**
 * Threads over one shared memory. The thread that calls works too, and waits for the others: a call
 * returns when the whole job is done. Which thread does what never changes a result.
 */
export class Pool {
  readonly memory: WebAssembly.Memory;
  private readonly words: Int32Array;
  private readonly crew: Crew;
  private readonly rasteriser = decode(RASTERISER);
  private readonly modules = new Map<string, number>();
  private readonly sources: Uint8Array[] = [];
  private helpers: Helper[] = [];
  /** Room through which modules go to the threads. */
  private passage = { address: 0, bytes: 0 };

  private constructor(
    readonly threads: number,
    /** Pages of memory that it may have. */
    readonly pages: number,
    /** After this many milliseconds without a sign of life a helper is taken to be dead. */
    private readonly patience: number,
  ) {
    this.memory = new WebAssembly.Memory({ initial: 16, maximum: pages, shared: true });
    this.words = new Int32Array(this.memory.buffer, 0, CONTROL_BYTES / 4);
    this.crew = new Crew(this.memory, this.rasteriser, 0, reportProgress);
  }

  static async create(threads: number, pages = USUAL_PAGES, patience = 10_000): Promise<Pool> {
    const pool = new Pool(threads, pages, patience);
    await pool.start();
    return pool;
  }

  private async start(): Promise<void> {
    const { memory, rasteriser } = this;
    const numbers = Array.from({ length: this.threads - 1 }, (_, i) => i + 1);
    this.helpers = await Promise.all(
      numbers.map((thread) => startThread(THREAD, { memory, rasteriser, thread })),
    );
  }

  /** New threads for old ones that failed; what is in memory stays as it is. */
  async restart(): Promise<void> {
    this.close();
    await this.start();
    this.sources.forEach((bytes, id) => {
      this.load(bytes, id);
    });
  }

  /** Ends the helping threads. */
  close(): void {
    this.words[JOB] = QUIT;
    Atomics.add(this.words, GENERATION, 1);
    Atomics.notify(this.words, GENERATION);
    for (const helper of this.helpers) helper.end();
    this.helpers = [];
  }

  /** Stops one helper without a word, as a crash would; for tests of what happens then. */
  crashHelper(): void {
    this.helpers.at(0)?.end();
  }

  /** The number of a kernel's module; equal bytes are loaded once. */
  module(key: string, bytes: () => Uint8Array): number {
    const known = this.modules.get(key);
    if (known !== undefined) return known;
    const id = this.sources.push(bytes()) - 1;
    this.modules.set(key, id);
    this.load(this.sources[id]!, id);
    return id;
  }

  private load(bytes: Uint8Array, id: number): void {
    // Modules pass through memory, since helpers sleep and read no messages. Every thread copies what it
    // loads, so that the next module takes the same room.
    if (this.passage.bytes < bytes.length) {
      const pages = Math.ceil(bytes.length / 65536);
      this.passage = { address: this.memory.buffer.byteLength, bytes: pages * 65536 };
      this.memory.grow(pages);
    }
    const { address } = this.passage;
    new Uint8Array(this.memory.buffer, address).set(bytes);
    this.order(LOAD, id, 1, [address, bytes.length]);
  }

  /** Runs a kernel over lanes `begin` to `end`, multiples of 4. */
  kernel(module: number, begin: number, end: number, params: number): void {
    const tasks = Math.ceil((end - begin) / GRAIN);
    if (tasks > 0) this.order(KERNEL, module, tasks, [begin, end, params, GRAIN]);
  }

  /** Runs a function of the rasteriser for so many tasks, from task `first` on; a `small` job alone. */
  raster(name: RasterFunction, tasks: number, args: number, small = false, first = 0): void {
    if (tasks > 0) this.order(RASTER, RASTER_FUNCTIONS.indexOf(name), tasks, [args], small, first);
  }

  private order(
    job: number,
    target: number,
    tasks: number,
    args: readonly number[],
    small = false,
    first = 0,
  ): void {
    const { words } = this;
    words[JOB] = job;
    words[TARGET] = target;
    words[TASKS] = first + tasks;
    args.forEach((value, i) => (words[ARG + i] = value));
    Atomics.store(words, NEXT, first);
    Atomics.store(words, DONE, 0);
    Atomics.store(words, FAILED, 0);
    // What is soon done is done sooner than a helper wakes up.
    const alone = job !== LOAD && (small || tasks === 1);
    if (!alone) {
      Atomics.add(words, GENERATION, 1);
      Atomics.notify(words, GENERATION);
    }
    this.crew.work();
    if (!alone) this.wait();
    if (words[FAILED]) throw new PoolFailure('A simulation thread failed and was stopped.');
  }

  private wait(): void {
    const { words } = this;
    const helpers = this.helpers.length;
    for (let i = 0; i < SPINS; i++) if (Atomics.load(words, DONE) >= helpers) return;
    let silentSince = Date.now();
    for (let heard = -1; ;) {
      const now = Atomics.load(words, DONE);
      if (now >= helpers) return;
      reportProgress();
      const beats = Atomics.load(words, BEATS) + now;
      if (beats !== heard) [heard, silentSince] = [beats, Date.now()];
      if (Date.now() - silentSince > this.patience) {
        throw new PoolFailure('A simulation thread stopped answering.');
      }
      Atomics.wait(words, DONE, now, 100);
    }
  }
}
