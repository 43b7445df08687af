import { fork, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { STILLS, type StillFormat } from '@vast-swarm/core/formats';
import type { RenderOptions } from '../render';
import type { Task } from './messages';

/** A worker's task for the process that makes its frames, see chunkProcess.ts. */
export interface Ask {
  task: Task;
  /** Where the piece stands, and what is made goes. */
  folder: string;
  /** The file of the state that it begins from; null is the very beginning. */
  state: string | null;
  /** Whether it goes on from where the task before has ended, whatever `state` says. */
  resumes: boolean;
}

/** Message of that process. */
export type Told =
  | { ready: true }
  | { about: { remembers: boolean } }
  | { frame: number; path: string }
  | { state: number; path: string }
  | { problem: string; at: number }
  | { done: true };

/** Milliseconds without a word after which it counts as hung; large frames take minutes. */
const SILENCE = 15 * 60_000;

/** Options of a render, as the command line would have them. */
export function argumentsIn({ task: { order }, folder }: Ask, threads: number): RenderOptions {
  const format = order.format as StillFormat;
  const { first, last, width, height, oversample, shutter, alpha, layers } = order;
  return {
    set: [],
    threads,
    format,
    oversample,
    shutter,
    alpha,
    ...(layers.length > 0 ? { layers } : {}),
    frames: [first, last],
    size: [width, height],
    out: join(folder, 'made', `${order.frames}.${STILLS[format].ending}`),
  };
}

/** The reason why a task came to nothing. */
export class Failed extends Error {
  override readonly name = 'Failed';
}

/** The process that makes a worker's frames; begun when it is needed, and again where it has died. */
export class FrameProcess {
  private child: ChildProcess | null = null;

  constructor(
    /** The program, and what it is begun with. */
    private readonly program: string,
    private readonly args: readonly string[],
    private readonly silence = SILENCE,
  ) {}

  /**
   * Has a task done.
   * @param told hears of what is made, in order; it is waited for
   * @throws Failed where it comes to nothing
   */
  async run(ask: Ask, told: (told: Told) => Promise<void>): Promise<void> {
    const child = this.child ?? (await this.begin());
    let hearing = Promise.resolve();
    await new Promise<void>((resolve, reject) => {
      let clock: NodeJS.Timeout;
      const end = (act: () => void): void => {
        clearTimeout(clock);
        child.off('message', hear).off('exit', gone);
        act();
      };
      const fail = (why: string): void => {
        end(() => {
          reject(new Failed(why));
        });
      };
      const wait = (): void => {
        clearTimeout(clock);
        clock = setTimeout(() => {
          this.stop();
          fail('the process that made it gave no sign for a long time');
        }, this.silence);
      };
      const gone = (): void => {
        fail('the process that made it was ended by the system');
      };
      const hear = (message: Told): void => {
        wait();
        if ('problem' in message) fail(`frame ${String(message.at)}: ${message.problem}`);
        else if ('done' in message) {
          end(() => {
            hearing.then(resolve, reject);
          });
        } else {
          hearing = hearing.then(() => told(message));
          hearing.catch(() => undefined);
        }
      };
      child.on('message', hear).once('exit', gone);
      wait();
      child.send(ask);
    });
  }

  private begin(): Promise<ChildProcess> {
    const child = fork(this.program, this.args, { stdio: ['ignore', 'ignore', 'inherit', 'ipc'] });
    this.child = child;
    child.once('exit', () => {
      if (this.child === child) this.child = null;
    });
    // What cannot be sent to one that has ended is told by its end.
    child.on('error', () => undefined);
    return new Promise((resolve, reject) => {
      child.once('error', (error) => {
        if (this.child === child) this.child = null;
        reject(new Failed(`the process that makes frames does not begin: ${error.message}`));
      });
      child.once('message', () => {
        resolve(child);
      });
      child.once('exit', () => {
        reject(new Failed('the process that makes frames does not begin'));
      });
    });
  }

  /** Whether the process of the task before is still there. */
  get isThere(): boolean {
    return this.child !== null;
  }

  /** Ends it at once: whatever it was at comes to nothing. */
  stop(): void {
    this.child?.kill('SIGKILL');
    this.child = null;
  }
}
