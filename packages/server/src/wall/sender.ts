import { randomBytes } from 'node:crypto';
import { createSocket } from 'node:dgram';
import { Packet } from 'sacn';
import type { WebSocket } from 'ws';
import { z } from 'zod';
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

/** Sends levels to a wall as sACN (ANSI E1.31), a packet for each universe. */
export class WallSender {
  private readonly socket = createSocket('udp4');
  private readonly cid = randomBytes(16);
  /** Of each universe how many packets were sent: a receiver tells by it what comes late. */
  private readonly sequences = new Map<number, number>();

  constructor(private readonly target: Target) {
    this.socket.on('error', () => undefined);
    this.socket.unref();
  }

  /** @param levels all channels of the universes, one behind the other */
  send(universes: Universes, levels: Uint8Array): void {
    let from = 0;
    for (const { universe, channels } of universes) {
      const payload: Record<number, number> = {};
      for (let i = 0; i < channels; i++) payload[i + 1] = levels[from + i] ?? 0;
      from += channels;
      const sequence = ((this.sequences.get(universe) ?? -1) + 1) % 256;
      this.sequences.set(universe, sequence);
      const { buffer } = new Packet({
        ...{ universe, sequence, payload, cid: this.cid, reuseAddr: true },
        ...{ sourceName: 'Vast Swarm', priority: 100, useRawDmxValues: true },
      });
      const bytes = new Uint8Array(buffer);
      // Whether it arrives is not known, and nobody waits for it.
      this.socket.send(bytes, this.target.port, this.target.host, () => undefined);
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
    const refuse = (why: string): void => {
      log(`Wall: ${why.slice(0, 300)}`);
      socket.close(1008, 'not understood');
    };
    socket.on('error', (error) => {
      log(`Wall: ${error.message}`);
    });
    socket.on('message', (data: Buffer, binary) => {
      if (binary) {
        if (data.length === count) sender.send(universes, data);
        else refuse(`${String(data.length)} levels came, ${String(count)} were said to`);
        return;
      }
      try {
        ({ universes } = universesSchema.parse(JSON.parse(data.toString())));
        count = universes.reduce((sum, u) => sum + u.channels, 0);
      } catch (error) {
        refuse(error instanceof Error ? error.message : String(error));
      }
    });
  };
  return ['/wall/send', { anyPort: false, open }];
}
