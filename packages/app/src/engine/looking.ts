import { travelling, type StockFiles } from '@vast-swarm/core/stock';
import type { Looker, ShownPicture } from '@vast-swarm/core/plan';
import { transfer } from 'comlink';
import { openWorker, type OpenWorker } from '../workers/openWorker';
import type { Asked, Found, LookWorker } from './lookWorker';

/** One who waits for what was asked. */
interface Waiting extends Asked {
  give: (found: Float32Array) => void;
  fail: (error: Error) => void;
}

/** Lists that go back with what is asked next, at the most. */
const MOST_SPARE = 8;

/** Has moving pictures played, and looked at, in a worker of its own, so that the engine only takes what it finds. */
export class Looking {
  private worker: OpenWorker<LookWorker> | null = null;
  /** Files that the worker has, by hash. */
  private readonly sent = new Set<string>();
  private waiting: Waiting[] = [];
  private spare: Float32Array<ArrayBuffer>[] = [];
  /** Files that pictures are from. */
  files: StockFiles = new Map();

  readonly looker: Looker = (shown) => ({
    find: (states, look) =>
      new Promise((give, fail) => {
        // All that a frame asks for goes together.
        if (this.waiting.length === 0) queueMicrotask(() => void this.ask());
        this.waiting.push({ shown, states, look, give, fail });
      }),
    back: (found) => {
      if (this.spare.length < MOST_SPARE) this.spare.push(found as Float32Array<ArrayBuffer>);
    },
  });

  private async ask(): Promise<void> {
    const { waiting, spare } = this;
    [this.waiting, this.spare] = [[], []];
    const asked = waiting.map(({ shown, states, look }) => ({ shown, states, look }));
    let found: Found[] = [];
    try {
      const worker = (this.worker ??= this.open());
      for (const { shown } of waiting) this.send(worker, shown);
      const buffers = spare.map((s) => s.buffer);
      found = await worker.ask(worker.call.look(asked, transfer(spare, buffers)));
    } catch (error) {
      for (const { fail } of waiting) fail(error as Error);
    }
    found.forEach((f, i) => {
      if ('buffer' in f) waiting[i]!.give(f);
      else waiting[i]!.fail(Object.assign(new Error(f.message), { name: f.name }));
    });
  }

  /** Sends the files that a picture is of, where the worker does not have them. */
  private send(worker: OpenWorker<LookWorker>, { stock }: ShownPicture): void {
    for (const { source } of stock) {
      if (!('hash' in source) || this.sent.has(source.hash)) continue;
      this.sent.add(source.hash);
      void worker.call.file(source.hash, travelling(this.files.get(source.hash)!));
    }
  }

  private open(): OpenWorker<LookWorker> {
    this.sent.clear();
    const made = new Worker(new URL('./lookWorker.ts', import.meta.url), { type: 'module' });
    return openWorker<LookWorker>(made, () => {
      // What it was asked fails; the next who asks has another one.
      this.worker = null;
    });
  }

  close(): void {
    this.worker?.close();
    this.worker = null;
  }
}
