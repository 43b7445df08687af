import express from 'express';
import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { JointDoor } from './joints/door';
import { ControlDoor } from './control/door';
import { controlRoutes } from './control/sockets';
import { Guard, isLoopback } from './guard';
import { jointRoutes } from './joints/sockets';
import { hearOsc, openOsc } from './osc';
import { Refused } from './refused';
import { openSockets } from './sockets';

/** The built application; this file runs from packages/server/dist. */
const APP = new URL('../../app/dist/', import.meta.url).pathname;

/** Shared memory between threads needs the page to be isolated from others (HTML standard, COOP/COEP). */
const HEADERS = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'X-Content-Type-Options': 'nosniff',
};

/** The port for joints that goes with one of the page. */
export function jointsBehind(port: number): number {
  return Math.min(65535, port + 1);
}

interface ServeOptions {
  port: number;
  /** Port for Open Sound Control; the one behind `port` where it is left out, 0 is a free one. */
  joints?: number;
  /** The address that is listened at: this machine alone where it is left out. */
  host?: string;
  /** What those on other machines have to know; made up and told where it is left out. */
  token?: string;
}

export async function serve({ port, joints, host, token }: ServeOptions): Promise<void> {
  const at = host ?? '127.0.0.1';
  const guard = new Guard(isLoopback(at) ? null : (token ?? randomBytes(9).toString('base64url')));
  if (!existsSync(join(APP, 'index.html'))) {
    throw new Refused("The application is not built; run './start', or 'npm run build'.");
  }
  const app = express();
  app.disable('x-powered-by');
  app.use((_, response, next) => {
    response.set(HEADERS);
    next();
  });
  app.use('/assets', express.static(join(APP, 'assets'), { immutable: true, maxAge: '1y' }));
  app.use(express.static(APP));
  // Views have addresses of their own; the application finds them.
  app.get(/^[^.]*$/, (_, response) => {
    response.sendFile(join(APP, 'index.html'));
  });
  const server = await new Promise<Server>((resolve, reject) => {
    const listening: Server = app.listen(port, at, (error?: Error) => {
      if (error) reject(new Refused(`Port ${String(port)} cannot be used: ${error.message}`));
      else resolve(listening);
    });
  });
  const address = server.address() as AddressInfo;
  const osc = await openDoors(server, guard, joints ?? (port === 0 ? 0 : jointsBehind(port)), at);
  const page = `${at.includes(':') ? `[${at}]` : at}:${String(address.port)}`;
  process.stdout.write(
    `Vast Swarm is ready at http://${page}\n` +
      `Controls are heard at ${osc} and at ws://${page}/control (JSON)\n` +
      `Joints are heard at ${osc} and at ws://${page}/joints/send (JSON)\n` +
      (guard.token === null ? '' : `Other machines have to know the token ${guard.token}\n`),
  );
}

/** Opens the doors to whoever runs a piece, and to live performers; gives the address for Open Sound Control. */
async function openDoors(
  server: Server,
  guard: Guard,
  port: number,
  host: string,
): Promise<string> {
  const log = (line: string): void => {
    process.stderr.write(`${line}\n`);
  };
  const osc = await openOsc(port, host);
  // Without it everything else is still of use.
  if (typeof osc === 'string') log(`UDP port ${String(port)} cannot be used: ${osc}`);
  const address = typeof osc === 'string' ? '' : `${host}:${String(osc.port)}`;
  const joints = new JointDoor(address, log);
  const control = new ControlDoor(log);
  if (typeof osc !== 'string') hearOsc(osc.socket, guard, { joints, control });
  openSockets(server, guard, new Map([...jointRoutes(joints), ...controlRoutes(control)]));
  return address ? `udp://${address} (Open Sound Control)` : 'no UDP port';
}
