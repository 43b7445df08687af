import type { WebSocket } from 'ws';
import { posesOf } from '@vast-swarm/core/formats';
import type { Route } from '../sockets';
import type { JointDoor } from './door';

/** Bytes that a page has not taken yet: beyond, poses are left out. */
const BEHIND = 2 ** 20;
/** Answers to bad messages a second. */
const ANSWERS = 10;

/** Where joints are sent to, as JSON, and where pages watch them. */
export function jointRoutes(door: JointDoor): [string, Route][] {
  const opened = (open: (socket: WebSocket, name: string) => void): Route => ({
    anyPort: false,
    open: (socket, name) => {
      socket.on('error', (error) => {
        door.refuse(error.message);
      });
      open(socket, name);
    },
  });
  return [
    [
      '/joints/send',
      opened((socket, name) => {
        hear(socket, door, name);
      }),
    ],
    [
      '/joints/watch',
      opened((socket) => {
        show(socket, door);
      }),
    ],
  ];
}

function show(socket: WebSocket, door: JointDoor): void {
  const end = door.watch((news) => {
    if ('pose' in news && socket.bufferedAmount > BEHIND) return;
    socket.send(JSON.stringify(news));
  });
  socket.on('close', end);
}

function hear(socket: WebSocket, door: JointDoor, sender: string): void {
  let answers: number[] = [];
  const answer = (error: string): void => {
    door.refuse(`${sender}: ${error}`);
    const now = performance.now();
    answers = answers.filter((t) => t > now - 1000);
    if (answers.length >= ANSWERS) return;
    answers.push(now);
    socket.send(JSON.stringify({ error }));
  };
  socket.on('message', (data: Buffer, binary) => {
    if (!door.admits()) return;
    try {
      if (binary) throw new Error('text is wanted, in JSON');
      for (const pose of posesOf(JSON.parse(data.toString()))) door.take(sender, pose);
    } catch (error) {
      answer(error instanceof Error ? error.message : String(error));
    }
  });
}
