import { jointsBehind } from './ports';
import type { FarmWorker } from '@vast-swarm/core/formats';
import { randomBytes } from 'node:crypto';
import type { Server } from 'node:http';
import { homedir } from 'node:os';
import { join, resolve } from 'node:path';
import type { AddressInfo } from 'node:net';
import { JointDoor } from './joints/door';
import { ControlDoor } from './control/door';
import { controlRoutes } from './control/sockets';
import { Guard, isLoopback } from './guard';
import { jointRoutes } from './joints/sockets';
import { hearOsc, openUdp } from './osc';
import { takeLock } from './deliver/lock';
import { whenInterrupted } from './interrupted';
import { Farm } from './farm/farm';
import { farmRunner } from './farm/farmRunner';
import { childRunner } from './queue/childRunner';
import { RenderQueue } from './queue/queue';
import { renderRoutes, type NoQueue } from './queue/routes';
import { Refused } from './refused';
import { serveApp } from './serveApp';
import { goOnWhateverComes, say, tell } from './say';
import { openSockets } from './sockets';
import { makeFolder } from './writeWhole';
import { SACN_PORT, wallRoute, WallSender, type Target } from './wall/sender';

interface ServeOptions {
  port: number;
  /** Port for Open Sound Control; the one behind `port` where it is left out, 0 is a free one. */
  joints?: number;
  /** The address that is listened at: this machine alone where it is left out. */
  host?: string;
  /** Where the wall of a show is. */
  wall?: Target;
  /** Token for those on other machines; made up and told where it is left out. */
  token?: string;
  /** The folder of renders; one in the home folder where it is left out. */
  renders?: string;
  /** Threads of each render, and how many are made at once. */
  threads: number;
  atOnce: number;
  /** Where the queue is for workers on other machines; renders are made by this machine where it is left out. */
  queue?: string;
  /** The file of the key that the workers of the queue share. */
  key?: string;
}

export async function serve(options: ServeOptions): Promise<void> {
  const { port, joints, host, token, wall } = options;
  const at = host ?? '127.0.0.1';
  const guard = new Guard(isLoopback(at) ? null : (token ?? randomBytes(9).toString('base64url')));
  const farm =
    options.queue === undefined ? null : await Farm.open(options.queue, options.key, tell);
  const queue = await openQueue(options, farm);
  if (typeof queue === 'string') tell(queue);
  const workers = farm && ((): Promise<FarmWorker[]> => farm.workers());
  const server = await serveApp(port, at, renderRoutes(guard, queue, workers));
  const address = server.address() as AddressInfo;
  const ports = { osc: joints ?? (port === 0 ? 0 : jointsBehind(port)), host: at };
  const osc = await openDoors(server, guard, ports, wall);
  const page = `${at.includes(':') ? `[${at}]` : at}:${String(address.port)}`;
  const lines = [
    `Vast Swarm is ready at http://${page}`,
    `Controls are heard at ${osc} and at ws://${page}/control (JSON)`,
    `Joints are heard at ${osc} and at ws://${page}/joints/send (JSON)`,
    ...(farm ? ['Renders wait for workers: vast-swarm worker --queue, with the same address'] : []),
    ...(guard.token === null ? [] : [`Other machines have to know the token ${guard.token}`]),
  ];
  goOnWhateverComes();
  say(lines.join('\n'));
}

/** The queue of renders; where another server has its folder, what is said of that. */
async function openQueue(
  { renders, threads, atOnce }: ServeOptions,
  farm: Farm | null,
): Promise<RenderQueue | NoQueue> {
  const folder = resolve(renders ?? join(homedir(), '.vast-swarm', 'renders'));
  try {
    await makeFolder(folder);
    const lock = await takeLock(folder, 'queue', [0, 0]);
    const own = childRunner(threads);
    const queue = await RenderQueue.open(folder, farm ? farmRunner(farm, own) : own, tell, atOnce);
    whenInterrupted(async () => {
      await queue.close();
      lock.release();
    });
    return queue;
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    return `There are no renders at this server: ${error.message}`;
  }
}

/** Opens the doors to whoever runs a piece, and to live performers; gives the address for Open Sound Control. */
async function openDoors(
  server: Server,
  guard: Guard,
  { osc: port, host }: { osc: number; host: string },
  wall: Target = { host: '127.0.0.1', port: SACN_PORT },
): Promise<string> {
  const osc = await openUdp(port, host);
  // Without it everything else is still of use.
  if (typeof osc === 'string') tell(`UDP port ${String(port)} cannot be used: ${osc}`);
  const address = typeof osc === 'string' ? '' : `${host}:${String(osc.port)}`;
  const joints = new JointDoor(address, tell);
  const control = new ControlDoor(tell);
  if (typeof osc !== 'string') hearOsc(osc.socket, guard, { joints, control });
  const routes = [
    ...jointRoutes(joints),
    ...controlRoutes(control),
    wallRoute(new WallSender(wall), tell),
  ];
  openSockets(server, guard, new Map(routes));
  return address ? `udp://${address} (Open Sound Control)` : 'no UDP port';
}
