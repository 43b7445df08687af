import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { connect, createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const HOST = '127.0.0.1';

/** A port of this machine that nobody listens at. */
export function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, HOST, () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => {
        resolve(port);
      });
    });
  });
}

const answers = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const socket = connect(port, HOST);
    const end = (there: boolean): void => {
      socket.destroy();
      resolve(there);
    };
    socket.once('error', () => {
      end(false);
    });
    socket.once('data', (data) => {
      end(data.toString().startsWith('+PONG'));
    });
    socket.once('connect', () => socket.write('PING\r\n'));
  });

/** A Redis of a test's own, from Debian's package, which has what it had when it is begun again. */
export class RunningRedis {
  private readonly dir = mkdtempSync(join(tmpdir(), 'vast-swarm-redis-'));
  private child: ChildProcess | null = null;

  private constructor(private readonly port: number) {}

  static async start(): Promise<RunningRedis> {
    const redis = new RunningRedis(await freePort());
    await redis.begin();
    return redis;
  }

  get url(): string {
    return `redis://${HOST}:${String(this.port)}`;
  }

  async begin(): Promise<void> {
    const kept = ['--appendonly', 'yes', '--appendfsync', 'always', '--save', ''];
    const at = ['--port', String(this.port), '--bind', HOST, '--dir', this.dir];
    const child = spawn('redis-server', [...at, ...kept], { stdio: 'ignore' });
    this.child = child;
    const gone = new Promise<boolean>((_, reject) => {
      child.once('error', reject);
      child.once('exit', () => {
        reject(new Error('redis-server has ended'));
      });
    });
    gone.catch(() => undefined);
    while (!(await Promise.race([answers(this.port), gone])));
  }

  async end(): Promise<void> {
    const { child } = this;
    if (child?.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill();
    await gone;
  }

  async remove(): Promise<void> {
    await this.end();
    rmSync(this.dir, { recursive: true, force: true });
  }
}
