import { createSocket } from 'node:dgram';
import { dateToTimetag, toBuffer, type OscMessageInput } from 'osc-min';
import { pierDancers } from '@vast-swarm/core/content/pierDancers';
import { posesAt, type Motion, type Performer } from '@vast-swarm/core/stock';
import { Refused } from './refused';
import { say } from './say';
import { SACN_PORT } from './wall/sender';
import { standInWall } from './wall/standIn';

interface Options {
  /** The port that joints are sent to, or at which a wall hears. */
  port?: number;
  /** The port that joints are sent to if nothing is said. */
  joints: number;
  rate: number;
  seconds?: number;
  page: number;
  map?: string;
}

/** Stands in for a device, until it is stopped. */
export async function standIn(what: string, options: Options): Promise<void> {
  const { port, joints } = options;
  if (what === 'performers') await standInPerformers({ ...options, port: port ?? joints });
  else if (what === 'wall') await standInWall({ ...options, port: port ?? SACN_PORT });
  else {
    throw new Refused(
      `There is no stand-in for '${what}'; there are some for: performers and wall.`,
    );
  }
}

/** Made-up dancers who send their joints as a sensor would. */
async function standInPerformers({
  port,
  rate,
  seconds,
}: Options & { port: number }): Promise<void> {
  const motion = pierDancers();
  const whole = motion.times.at(-1)!;
  const socket = createSocket('udp4');
  const send = (packet: Parameters<typeof toBuffer>[0]): void => {
    const { buffer, byteOffset, byteLength } = toBuffer(packet);
    // Whether anybody hears it is not known, and it does not matter.
    socket.send(new Uint8Array(buffer, byteOffset, byteLength), port, '127.0.0.1', () => undefined);
  };
  const who = motion.performers.map((p) => p.name).join(' and ');
  say(
    `${who} dance, and send their joints to 127.0.0.1:${String(port)} ${String(rate)} times a second.`,
  );
  const begun = performance.now();
  for (let beat = 0; ; beat++) {
    const second = beat / rate;
    if (seconds !== undefined && second >= seconds) break;
    const late = begun + 1000 * second - performance.now();
    if (late > 0) await new Promise((resolve) => setTimeout(resolve, late));
    const timetag = dateToTimetag(new Date());
    for (const performer of motion.performers) {
      // On which joint each hangs is said again now and then: whoever begins to listen has to know.
      if (beat % rate === 0) for (const element of bones(performer)) send(element);
      send({ timetag, elements: joints(motion, performer, second % whole) });
    }
  }
  socket.close();
}

const address = (who: string, what: string, name: string): string =>
  `/performer/${who}/${what}/${name}`.replaceAll(' ', '_');

function bones({ name: who, joints }: Performer): OscMessageInput[] {
  return joints
    .filter((j) => j.parent >= 0)
    .map(({ name, parent }) => ({
      address: address(who, 'bone', name),
      args: [joints[parent]!.name],
    }));
}

function joints(motion: Motion, performer: Performer, second: number): OscMessageInput[] {
  const places = posesAt(motion, [performer], second);
  return performer.joints.map(({ name }, i) => ({
    address: address(performer.name, 'joint', name),
    args: [...places.subarray(3 * i, 3 * i + 3)].map((value) => ({
      type: 'float' as const,
      value,
    })),
  }));
}
