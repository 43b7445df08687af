import { pierDancers } from '@vast-swarm/core/content/pierDancers';
import { clock } from '../workers/clock';
import { posesAt, type Motion } from '@vast-swarm/core/stock';
import type { DoorNews } from '@vast-swarm/core/formats';

/** Hears what there is of joints, when it arrived in seconds of this machine's clock, and whether nothing comes any more. */
export interface Listener {
  hear: (news: DoorNews, arrived: number) => void;
  lost: () => void;
}

/** Motions that stand in for people, by their names in the stock. */
const MOTIONS: Record<string, () => Motion> = { pierDancers };
export const STAND_INS = Object.keys(MOTIONS);

/** Milliseconds after which a lost server is looked for again. */
const AGAIN = 1000;
/** Poses a second of who stands in. */
const RATE = 60;

/**
 * Hears joints from the server of the page; a server that is gone is looked for again and again.
 *
 * @throws Error where there is no such server
 */
export function openServer(url: string, { hear, lost }: Listener): Promise<void> {
  const connect = (): Promise<void> =>
    new Promise((resolve, reject) => {
      const socket = new WebSocket(url);
      let was = false;
      socket.onopen = () => {
        was = true;
        resolve();
      };
      socket.onmessage = ({ data }: MessageEvent<string>) => {
        hear(JSON.parse(data) as DoorNews, clock());
      };
      socket.onclose = () => {
        reject(new Error('the server of this page does not take joints'));
        if (!was) return;
        lost();
        look();
      };
    });
  const look = (): void => {
    setTimeout(() => void connect().catch(look), AGAIN);
  };
  return connect();
}

/** The joints of a motion of our own, over and over. */
export function openStandIn(name: string, { hear }: Listener): void {
  const motion = MOTIONS[name]!();
  const { performers } = motion;
  const present = performers.map(({ name: who, joints }) => ({
    name: who,
    joints: joints.map((j) => j.name),
    bones: Object.fromEntries(
      joints.flatMap((j) => (j.parent < 0 ? [] : [[j.name, joints[j.parent]!.name]])),
    ),
  }));
  hear({ present }, clock());
  const begun = clock();
  setInterval(() => {
    const now = clock();
    const second = (now - begun) % motion.times.at(-1)!;
    for (const performer of performers) {
      const places = [...posesAt(motion, [performer], second)];
      hear({ pose: performer.name, time: now, places }, now);
    }
  }, 1000 / RATE);
}
