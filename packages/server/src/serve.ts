import express from 'express';
import { existsSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { JointDoor } from './joints/door';
import { hearOsc, openOsc } from './joints/osc';
import { openSockets } from './joints/sockets';
import { Refused } from './refused';

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

/** @param joints port for joints by Open Sound Control; the one behind `port` where it is left out, 0 is a free one */
export async function serve({ port, joints }: { port: number; joints?: number }): Promise<void> {
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
    const listening: Server = app.listen(port, '127.0.0.1', (error?: Error) => {
      if (error) reject(new Refused(`Port ${String(port)} cannot be used: ${error.message}`));
      else resolve(listening);
    });
  });
  const address = server.address() as AddressInfo;
  const door = await openJoints(server, joints ?? (port === 0 ? 0 : jointsBehind(port)));
  process.stdout.write(
    `Vast Swarm is ready at http://127.0.0.1:${String(address.port)}\n` +
      `Joints are heard at ${door} and at ws://127.0.0.1:${String(address.port)}/joints/send (JSON)\n`,
  );
}

/** Opens the door to live performers; gives the address for Open Sound Control. */
async function openJoints(server: Server, port: number): Promise<string> {
  const log = (line: string): void => {
    process.stderr.write(`${line}\n`);
  };
  const osc = await openOsc(port);
  // Without it everything else is still of use.
  if (typeof osc === 'string') log(`UDP port ${String(port)} cannot be used for joints: ${osc}`);
  const address = typeof osc === 'string' ? '' : `127.0.0.1:${String(osc.port)}`;
  const door = new JointDoor(address, log);
  if (typeof osc !== 'string') hearOsc(osc.socket, door);
  openSockets(server, door);
  return address ? `udp://${address} (Open Sound Control)` : 'no UDP port';
}
