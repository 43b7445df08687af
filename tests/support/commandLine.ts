import { execFile } from 'node:child_process';
import { CLI } from './cli';

/** What a command said, and how it ended; -1 where it was ended by others. */
interface Run {
  code: number;
  out: string;
  err: string;
}

export function run(command: string, args: readonly string[], cwd?: string): Promise<Run> {
  return new Promise((resolve) => {
    execFile(command, args, { cwd, timeout: 600_000 }, (error, out, err) => {
      resolve({ code: typeof error?.code === 'number' ? error.code : error ? -1 : 0, out, err });
    });
  });
}

export function vastSwarmIn(cwd: string, ...args: string[]): Promise<Run> {
  return run(process.execPath, [CLI, ...args], cwd);
}

export function vastSwarm(...args: string[]): Promise<Run> {
  return vastSwarmIn(process.cwd(), ...args);
}
