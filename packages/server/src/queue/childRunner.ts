import type { RenderJob } from '@vast-swarm/core/formats';
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { createInterface } from 'node:readline';
import { isVideo } from '@vast-swarm/core/formats';
import { endHolders } from '../deliver/lock';
import { jsonIn } from '../jsonIn';
import { lookOf, madeOf, outOf, pieceOf } from './jobFolder';
import { stepSchema, type Outcome, type Run, type Runner, type Step } from './runner';

/** Renders by the command line in a process of its own: where that dies, the server goes on, and so may the render. */

/** The command line itself; this file is bundled into it. */
const CLI = new URL('./cli.mjs', import.meta.url).pathname;
/** A process that was ended by others is begun again so often, as long as it had made something. */
const AGAIN = 3;
/** Codes of those that end in order because they are told to, see interrupted.ts. */
const ENDED = [130, 143];
/** Letters of what it says at last that are kept. */
const SAID = 2000;

export function argumentsOf(job: RenderJob): string[] {
  const { order } = job;
  const { format, codec, quality, alpha, layers } = order;
  const video = isVideo(format);
  return [
    'render',
    pieceOf(job),
    '--out',
    outOf(job),
    '--json',
    '--format',
    format,
    '--frames',
    `${String(order.first)}..${String(order.last)}`,
    '--size',
    `${String(order.width)}x${String(order.height)}`,
    '--oversample',
    String(order.oversample),
    '--shutter',
    String(order.shutter),
    '--look',
    lookOf(job),
    ...(alpha ? ['--alpha'] : []),
    ...(layers.length > 0 ? ['--layers', layers.join(',')] : []),
    ...(video ? ['--quality', quality] : ['--resume']),
    ...(video && codec ? ['--codec', codec] : []),
  ];
}

interface End {
  code: number | null;
  said: string;
  steps: number;
}

/** One process, until it ends. */
function began(job: RenderJob, threads: number, step: (step: Step) => void) {
  const args = [CLI, ...argumentsOf(job), '--threads', String(threads)];
  const child = spawn(process.execPath, args, { stdio: ['ignore', 'pipe', 'pipe'] });
  let [said, steps] = ['', 0];
  child.stderr.on('data', (data: Buffer) => (said = (said + data.toString()).slice(-SAID)));
  createInterface({ input: child.stdout }).on('line', (line) => {
    const read = stepSchema.safeParse(jsonIn(line));
    // It may have been cut off as the process ended.
    if (!read.success) return;
    steps += 1;
    step(read.data);
  });
  const ended = once(child, 'close').then(([code]): End => {
    return { code: code as number | null, said, steps };
  });
  return { child, ended };
}

/** Words on a render that did not end well: notes of the piece come before. */
function problemOf({ code, said }: End): string {
  const lines = said.split('\n').filter((line) => line.trim() && !line.startsWith('note: '));
  if (lines.length > 0) return lines.join(' ');
  return code === null ? 'The render was ended by the system.' : 'The render gave no reason.';
}

export function childRunner(threads: number): Runner {
  return (job, step): Run => {
    const halt = new AbortController();
    const isHalted = (): boolean => halt.signal.aborted;
    let current: ReturnType<typeof began> | null = null;
    const run = async (): Promise<Outcome> => {
      // One that was left behind by a server that died still works at it.
      await endHolders(madeOf(job));
      for (let tries = 1; ; tries++) {
        if (isHalted()) return { made: false, problem: '' };
        current = began(job, threads, step);
        const end = await current.ended;
        if (end.code === 0) return { made: true };
        const byOthers = end.code === null || ENDED.includes(end.code);
        const again = byOthers && end.steps > 0 && tries < AGAIN;
        if (isHalted() || !again) return { made: false, problem: problemOf(end) };
        await endHolders(madeOf(job));
      }
    };
    return {
      ended: run(),
      stop: () => {
        halt.abort();
        current?.child.kill('SIGTERM');
      },
    };
  };
}
