import { randomBytes } from 'node:crypto';
import { createSocket } from 'node:dgram';
import { Packet } from 'sacn';
import type { WebSocket } from 'ws';
import { z } from 'zod';
import { firstOf } from '../firstOf';
import type { Route } from '../sockets';

/** The port of sACN (ANSI E1.31, 12.1). */
export const SACN_PORT = 5568;

/** Universes with the channels that they have of a wall, in the order in which levels come. */
const universesSchema = z.strictObject({
  universes: z
    .array(
      z.strictObject({
        universe: z.number().int().min(1).max(63_999),
        channels: z.number().int().min(1).max(512),
      }),
    )
    .max(512),
});
type Universes = z.infer<typeof universesSchema>['universes'];

/** Where a wall is, or its controller. */
export interface Target {
  host: string;
  port: number;
}

/** Where in a packet its number and its first level stand (ANSI E1.31, table 4-1). */
const [SEQUENCE, LEVELS] = [111, 126];

/** Sends levels to a wall as sACN (ANSI E1.31), a packet for each universe. */
export class WallSender {
  private readonly socket = createSocket('udp4');
  private readonly cid = randomBytes(16);
  /** The last packet of each universe: the next is the same but for its levels and its number, by which a receiver tells what comes late. */
  private readonly packets = new Map<number, Uint8Array>();

  constructor(private readonly target: Target) {
    this.socket.on('error', () => undefined);
    this.socket.unref();
  }

  private packetOf(universe: number): Uint8Array {
    const known = this.packets.get(universe);
    if (known) return known;
    const { buffer } = new Packet({
      // The first that is sent has the number behind it.
      universe,
      sequence: 255,
      payload: {},
      cid: this.cid,
      sourceName: 'Vast Swarm',
      priority: 100,
      useRawDmxValues: true,
    });
    const made = new Uint8Array(buffer);
    this.packets.set(universe, made);
    return made;
  }

  /** @param levels all channels of the universes, one behind the other */
  send(universes: Universes, levels: Uint8Array): void {
    let from = 0;
    for (const { universe, channels } of universes) {
      // What is sent is read later: each has bytes of its own.
      const packet = this.packetOf(universe).slice();
      packet[SEQUENCE] = (packet[SEQUENCE]! + 1) % 256;
      packet.fill(0, LEVELS);
      packet.set(levels.subarray(from, from + channels), LEVELS);
      from += channels;
      this.packets.set(universe, packet);
      // Whether it arrives is not known, and nobody waits for it.
      this.socket.send(packet, this.target.port, this.target.host, () => undefined);
    }
  }

  close(): void {
    this.socket.close();
  }
}

/** Where the output of a show sends what its wall is to show: universes as JSON first, then their levels. */
export function wallRoute(sender: WallSender, log: (line: string) => void): [string, Route] {
  const open = (socket: WebSocket): void => {
    let universes: Universes = [];
    let count = 0;
    let latest: Buffer | null = null;
    const sendSoon = (levels: Buffer): void => {
      // Of what has gathered while there was no time, the last is of use.
      if (latest === null) {
        setImmediate(() => {
          if (latest?.length === count) sender.send(universes, latest);
          latest = null;
        });
      }
      latest = levels;
    };
    const refuse = (why: string): void => {
      log(`Wall: ${why.slice(0, 300)}`);
      socket.close(1008, 'not understood');
    };
    socket.on('error', (error) => {
      log(`Wall: ${error.message}`);
    });
    socket.on('message', (data: Buffer, binary) => {
      if (binary) {
        if (data.length === count) sendSoon(data);
        else refuse(`${String(data.length)} levels came, ${String(count)} were said to`);
        return;
      }
      try {
        ({ universes } = universesSchema.parse(JSON.parse(data.toString())));
        count = universes.reduce((sum, u) => sum + u.channels, 0);
      } catch (error) {
        refuse(error instanceof z.ZodError ? firstOf(error, 'the message') : 'this is not JSON');
      }
    });
  };
  return ['/wall/send', { anyPort: false, open }];
}
