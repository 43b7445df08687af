import { createSocket, type Socket } from 'node:dgram';
import { fromBuffer, type OscMessageOutput, type OscPacketOutput, type TimeTag } from 'osc-min';
import { posesOf, type SentPose } from '@vast-swarm/core';
import type { JointDoor } from './door';

/** Bundles within bundles, so deep at the most. */
const DEEPEST = 8;
/** Seconds from 1900, where time tags begin, to 1970. */
const EPOCH = 2_208_988_800;

/** The second of a time tag since 1970; undefined for the one that means `at once` (Open Sound Control 1.0). */
function secondOf([seconds, part]: TimeTag): number | undefined {
  return seconds === 0 ? undefined : seconds - EPOCH + part / 2 ** 32;
}

/**
 * The poses in a packet of Open Sound Control 1.0: `/performer/<who>/joint/<name>` with x, y, z in metres, y up, and
 * `/performer/<who>/bone/<joint>` with the name of the joint it hangs on. What stands in one bundle is one pose, at the
 * time of its tag. `_` in an address is a space.
 *
 * @throws Error that says what is wrong, and where
 */
export function posesOfPacket(packet: Uint8Array): SentPose[] {
  const poses = new Map<string, SentPose>();
  gather(fromBuffer(packet), undefined, poses, 0);
  return posesOf([...poses.values()]);
}

function gather(
  packet: OscPacketOutput,
  time: number | undefined,
  poses: Map<string, SentPose>,
  depth: number,
): void {
  if (packet.oscType === 'bundle') {
    if (depth === DEEPEST) throw new Error('bundles within bundles are too deep');
    const own = secondOf(packet.timetag) ?? time;
    for (const element of packet.elements) gather(element, own, poses, depth + 1);
    return;
  }
  const [, performer, what, joint] = addressOf(packet);
  const key = `${performer!} ${String(time)}`;
  const pose = poses.get(key) ?? { performer: performer!, time, joints: {}, bones: {} };
  poses.set(key, pose);
  const values = packet.args.map((arg) => ('value' in arg ? arg.value : null));
  if (what === 'joint') pose.joints[joint!] = values as [number, number, number];
  else pose.bones[joint!] = values[0] as string;
}

function addressOf({ address }: OscMessageOutput): string[] {
  const parts = /^\/performer\/([^/]+)\/(joint|bone)\/([^/]+)$/.exec(address);
  if (parts) return [...parts].map((p) => p.replaceAll('_', ' '));
  const shown = JSON.stringify(address.slice(0, 80));
  throw new Error(`${shown} is not known; known is /performer/<who>/joint/<name>`);
}

/**
 * Opens a port for Open Sound Control over UDP, on this machine only.
 *
 * @returns why not, where the port cannot be had
 */
export async function openOsc(port: number): Promise<{ socket: Socket; port: number } | string> {
  const socket = createSocket('udp4');
  return new Promise((resolve) => {
    socket.once('error', (error) => {
      socket.close();
      resolve(error.message);
    });
    socket.bind(port, '127.0.0.1', () => {
      socket.removeAllListeners('error');
      resolve({ socket, port: socket.address().port });
    });
  });
}

/** What comes in at a port goes to the door. */
export function hearOsc(socket: Socket, door: JointDoor): void {
  socket.on('message', (packet, { address, port }) => {
    const sender = `${address}:${String(port)}`;
    if (!door.admits()) return;
    try {
      for (const pose of posesOfPacket(packet)) door.take(sender, pose);
    } catch (error) {
      door.refuse(`${sender}: ${error instanceof Error ? error.message : String(error)}`);
    }
  });
  // What cannot be read by the system is no reason to end.
  socket.on('error', (error) => {
    door.refuse(error.message);
  });
}
