import { BEATS, DONE, FAILED, GENERATION, JOB, QUIT } from './control';
import { Crew } from './crew';

/** The script of a helping thread, in the browser and in Node: wait, work, say so. */

interface Start {
  memory: WebAssembly.Memory;
  rasteriser: Uint8Array<ArrayBuffer>;
  thread: number;
}

interface Port {
  postMessage(message: unknown): void;
}

/** Looks this often before it sleeps: jobs of one frame follow each other closely. */
const SPINS = 6000;

function serve({ memory, rasteriser, thread }: Start, port: Port): void {
  const words = new Int32Array(memory.buffer);
  const crew = new Crew(memory, rasteriser, thread, () => {
    Atomics.add(words, BEATS, 1);
  });
  let seen = Atomics.load(words, GENERATION);
  port.postMessage('ready');
  for (;;) {
    for (let i = 0; i < SPINS && Atomics.load(words, GENERATION) === seen; i++);
    Atomics.wait(words, GENERATION, seen);
    const generation = Atomics.load(words, GENERATION);
    if (generation === seen) continue;
    seen = generation;
    if (Atomics.load(words, JOB) === QUIT) return;
    try {
      crew.work();
    } catch {
      Atomics.store(words, FAILED, 1);
    }
    Atomics.add(words, DONE, 1);
    Atomics.notify(words, DONE);
  }
}

if (typeof self === 'object') {
  self.onmessage = (event: MessageEvent<Start>) => {
    serve(event.data, self);
  };
} else {
  // eslint-disable-next-line @typescript-eslint/no-require-imports -- Node evaluates it as CommonJS
  const { parentPort } = require('node:worker_threads') as typeof import('node:worker_threads');
  parentPort!.once('message', (start: Start) => {
    serve(start, parentPort!);
  });
}
