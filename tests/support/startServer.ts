import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';

/** The command line, as it is built. */
export const CLI = join(__dirname, '../../packages/server/bin/vast-swarm.mjs');

export interface RunningServer {
  url: string;
  /** The UDP port for joints. */
  joints: number;
  child: ChildProcess;
}

/** The built application, served as `./start` serves it, on free ports. */
export async function startServer(more: readonly string[] = []): Promise<RunningServer> {
  const child = spawn(process.execPath, [CLI, 'serve', '--port', '0', ...more], {
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  child.stderr.pipe(process.stderr);
  let told = '';
  const [url, joints] = await new Promise<[string, string]>((resolve, reject) => {
    child.once('exit', () => {
      reject(new Error('the server did not start; is the application built?'));
    });
    child.stdout.on('data', (data: Buffer) => {
      told += data.toString();
      const match = /(http:\/\/\S+)[^]*udp:\/\/[\d.]+:(\d+)/.exec(told);
      if (match) resolve([match[1]!, match[2]!]);
    });
  });
  return { url, joints: Number(joints), child };
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
  const child = spawn(process.execPath, [CLI, ...args], { stdio: ['ignore', 'pipe', 'inherit'] });
  let told = '';
  const [port, url] = await new Promise<[string, string]>((resolve, reject) => {
    child.once('exit', () => {
      reject(new Error('the wall did not start; is the application built?'));
    });
    child.stdout.on('data', (data: Buffer) => {
      told += data.toString();
      const match = /udp:\/\/[\d.]+:(\d+)[^]*(http:\/\/\S+)/.exec(told);
      if (match) resolve([match[1]!, match[2]!]);
    });
  });
  return { url, port: Number(port), child };
}
