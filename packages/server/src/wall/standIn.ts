import type { AddressInfo } from 'node:net';
import { Packet } from 'sacn';
import type { WebSocket } from 'ws';
import { parseWall, wallText, type Wall } from '@vast-swarm/core/show';
import { Guard } from '../guard';
import { loadDocument } from '../load';
import { openUdp } from '../osc';
import { Refused } from '../refused';
import { goOnWhateverComes, say } from '../say';
import { serveApp } from '../serveApp';
import { openSockets } from '../sockets';

/** Milliseconds between what pages are told. */
const TELL_EVERY = 33;

/** A wall's receiver: the last levels of each universe. */
class Hearing {
  readonly levels = new Map<number, { sequence: number; slots: Buffer }>();
  private readonly fresh = new Set<number>();
  private packets = 0;
  private refused = 0;
  private late = 0;

  hear(bytes: Buffer): void {
    try {
      const { universe, sequence, payloadAsBuffer } = new Packet(bytes);
      this.packets += 1;
      const before = this.levels.get(universe)?.sequence;
      // What comes behind a later one is of no use any more (ANSI E1.31, 6.7.2).
      if (before !== undefined && isLate(before, sequence)) {
        this.late += 1;
        return;
      }
      this.levels.set(universe, { sequence, slots: payloadAsBuffer! });
      this.fresh.add(universe);
    } catch {
      this.refused += 1;
    }
  }

  /** Universes, each with its number, how many channels it has, and those; all of them, or what is new. */
  told(all: boolean): Buffer {
    const wanted = all ? [...this.levels.keys()] : [...this.fresh];
    this.fresh.clear();
    return Buffer.concat(
      wanted.map((universe) => {
        const { slots } = this.levels.get(universe)!;
        const head = Buffer.alloc(4);
        head.writeUInt16BE(universe, 0);
        head.writeUInt16BE(slots.length, 2);
        return Buffer.concat([head, slots]);
      }),
    );
  }

  get counts(): { packets: number; refused: number; late: number; universes: number } {
    const { packets, refused, late } = this;
    return { packets, refused, late, universes: this.levels.size };
  }
}

/** Whether a packet comes behind one that is later, by the numbers of both, which go round at 256. */
function isLate(before: number, now: number): boolean {
  const ahead = (now - before + 256) % 256;
  const behind = ahead > 127 ? ahead - 256 : ahead;
  return behind <= 0 && behind > -20;
}

interface Options {
  port: number;
  /** Port of the page. */
  page: number;
  map?: string;
}

/** A wall of LED panels that hears sACN, and shows on a page what it would look like. */
export async function standInWall({ port, page, map }: Options): Promise<void> {
  const wall =
    map === undefined
      ? (await import('@vast-swarm/core/demo')).DEMO_SHOW.show.wall!
      : await loadDocument(map, parseWall);
  const hearing = new Hearing();
  const udp = await openUdp(port, '127.0.0.1', true);
  if (typeof udp === 'string') {
    throw new Refused(`UDP port ${String(port)} cannot be used: ${udp}`);
  }
  udp.socket.on('message', (bytes) => {
    hearing.hear(bytes);
  });
  const server = await serveApp(page, '127.0.0.1');
  const pages = new Set<WebSocket>();
  const send = (to: WebSocket, data: Buffer): void => {
    if (data.length > 0 && to.bufferedAmount < 2 ** 20) to.send(new Uint8Array(data));
  };
  const open = (to: WebSocket): void => {
    pages.add(to);
    to.on('close', () => pages.delete(to));
    to.on('error', () => pages.delete(to));
    to.send(JSON.stringify({ wall: JSON.parse(wallText(wall)) as Wall }));
    send(to, hearing.told(true));
  };
  openSockets(server, new Guard(null), new Map([['/wall/levels', { anyPort: false, open }]]));
  setInterval(() => {
    const data = hearing.told(false);
    for (const to of pages) send(to, data);
  }, TELL_EVERY);
  setInterval(() => {
    const text = JSON.stringify({ counts: hearing.counts });
    for (const to of pages) to.send(text);
  }, 1000);
  goOnWhateverComes();
  const at = (server.address() as AddressInfo).port;
  say(
    `The wall hears sACN at udp://127.0.0.1:${String(udp.port)}\n` +
      `It is seen at http://127.0.0.1:${String(at)}/wall`,
  );
}
