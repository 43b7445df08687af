import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from './build';
import { CLI } from './cli';

/** Starts a command that goes on, and waits for what it says of its addresses. */
async function started(
  args: readonly string[],
  wanted: RegExp,
): Promise<{ child: ChildProcess; said: RegExpExecArray }> {
  const child = spawn(process.execPath, [CLI, ...args], { stdio: ['ignore', 'pipe', 'pipe'] });
  child.stderr.pipe(process.stderr);
  let told = '';
  const said = await new Promise<RegExpExecArray>((resolve, reject) => {
    child.once('exit', () => {
      reject(new Error(`'${args.join(' ')}' did not start; is the application built?`));
    });
    child.stdout.on('data', (data: Buffer) => {
      told += data.toString();
      const match = wanted.exec(told);
      if (match) resolve(match);
    });
  });
  return { child, said };
}

export interface RunningServer {
  url: string;
  /** The UDP port for joints. */
  joints: number;
  child: ChildProcess;
}

/** The built application, served as `./start` serves it, on free ports. */
export async function startServer(more: readonly string[] = []): Promise<RunningServer> {
  build('app');
  const address = /(http:\/\/\S+)[^]*udp:\/\/[\d.]+:(\d+)/;
  // A folder of its own: renders of others are none of its business.
  const renders = mkdtempSync(join(tmpdir(), 'vast-swarm-renders-'));
  const args = ['serve', '--port', '0', '--renders', renders, ...more];
  const { child, said } = await started(args, address);
  child.once('exit', () => {
    rmSync(renders, { recursive: true, force: true });
  });
  return { url: said[1]!, joints: Number(said[2]), child };
}

export interface RunningWall {
  /** The address of its page. */
  url: string;
  /** The UDP port at which it hears. */
  port: number;
  child: ChildProcess;
}

/** A wall that stands in for one, on free ports. */
export async function startWall(more: readonly string[] = []): Promise<RunningWall> {
  const args = ['stand-in', 'wall', '--port', '0', '--page', '0', ...more];
  const { child, said } = await started(args, /udp:\/\/[\d.]+:(\d+)[^]*(http:\/\/\S+)/);
  return { url: said[2]!, port: Number(said[1]), child };
}

/** A worker of a queue. */
export async function startWorker(
  queue: string,
  name: string,
  lease: number,
  more: readonly string[] = [],
): Promise<ChildProcess> {
  const own = ['--name', name, '--threads', '1', '--lease', String(lease), ...more];
  const { child } = await started(['worker', '--queue', queue, ...own], /waits for renders/);
  return child;
}
