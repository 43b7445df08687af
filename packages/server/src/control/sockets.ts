import type { WebSocket } from 'ws';
import {
  controlMessage,
  NotFollowed,
  runnerSchema,
  type ControlAnswer,
} from '@vast-swarm/core/formats';
import type { Route } from '../sockets';
import type { ControlDoor } from './door';

/** Bytes that somebody has not taken yet: beyond, nothing more is sent. */
const BEHIND = 2 ** 20;

/** Where a piece is run from outside, as JSON, and where the page is that runs it. */
export function controlRoutes(door: ControlDoor): [string, Route][] {
  const refuses = (socket: WebSocket): void => {
    socket.on('error', (error) => {
      door.refuse(error.message);
    });
  };
  return [
    [
      '/control',
      {
        anyPort: true,
        open: (socket, name) => {
          refuses(socket);
          hear(socket, door, name);
        },
      },
    ],
    [
      '/control/run',
      {
        anyPort: false,
        open: (socket) => {
          refuses(socket);
          run(socket, door);
        },
      },
    ],
  ];
}

function sends(socket: WebSocket): (data: unknown) => void {
  return (data) => {
    if (socket.bufferedAmount < BEHIND) socket.send(JSON.stringify(data));
  };
}

function hear(socket: WebSocket, door: ControlDoor, name: string): void {
  const hand = { name, answer: sends(socket) as (answer: ControlAnswer) => void };
  socket.on('close', () => {
    door.leave(name);
  });
  socket.on('message', (data: Buffer, binary) => {
    door.hear(hand, () => controlMessage(binary ? null : read(data.toString())));
  });
}

function read(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new NotFollowed('this is not JSON; wanted is for example {"set": "spread", "to": 0.7}');
  }
}

function run(socket: WebSocket, door: ControlDoor): void {
  const send = sends(socket);
  const { news, end } = door.run(send);
  socket.on('close', end);
  socket.on('message', (data: Buffer) => {
    try {
      news(runnerSchema.parse(JSON.parse(data.toString())));
    } catch (error) {
      door.refuse(`the page: ${error instanceof Error ? error.message : String(error)}`);
    }
  });
}
