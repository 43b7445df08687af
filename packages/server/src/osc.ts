import { createSocket, type Socket } from 'node:dgram';
import { fromBuffer } from 'osc-min';
import type { ControlDoor } from './control/door';
import { hearControl } from './control/osc';
import type { Guard } from './guard';
import type { JointDoor } from './joints/door';
import { posesOfMessages } from './joints/osc';
import { messagesOf } from './oscMessages';

/**
 * Opens a UDP port.
 *
 * @param reuseAddr whether others of this machine may hear it too
 * @returns why not, where the port cannot be had
 */
export async function openUdp(
  port: number,
  host: string,
  reuseAddr = false,
): Promise<{ socket: Socket; port: number } | string> {
  const type = host.includes(':') ? 'udp6' : 'udp4';
  const socket = createSocket({ type, reuseAddr });
  return new Promise((resolve) => {
    socket.once('error', (error) => {
      socket.close();
      resolve(error.message);
    });
    socket.bind(port, host, () => {
      socket.removeAllListeners('error');
      resolve({ socket, port: socket.address().port });
    });
  });
}

/** Hears Open Sound Control at a port, and gives each message to the door that it is for. */
export function hearOsc(
  socket: Socket,
  guard: Guard,
  { joints, control }: { joints: JointDoor; control: ControlDoor },
): void {
  socket.on('message', (packet, from) => {
    const sender = `${from.address}:${String(from.port)}`;
    if (!joints.admits()) return;
    try {
      const all = messagesOf(fromBuffer(packet));
      for (const { message } of all) {
        const [arg] = message.args;
        if (message.address === '/token') guard.take(sender, arg && 'value' in arg && arg.value);
      }
      if (!guard.hears(from.address, sender))
        throw new Error('the token is wanted first, by /token');
      const said = all.filter(({ message }) => message.address !== '/token');
      const runs = said.filter(({ message }) => !message.address.startsWith('/performer/'));
      for (const timed of runs) hearControl(socket, control, timed, from);
      const moves = said.filter((timed) => !runs.includes(timed));
      for (const pose of posesOfMessages(moves)) joints.take(sender, pose);
    } catch (error) {
      joints.refuse(`${sender}: ${error instanceof Error ? error.message : String(error)}`);
    }
  });
  // What cannot be read by the system is no reason to end.
  socket.on('error', (error) => {
    joints.refuse(error.message);
  });
}
