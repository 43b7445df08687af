import type { IncomingMessage, Server } from 'node:http';
import { WebSocketServer, type WebSocket } from 'ws';
import { posesOf } from '@vast-swarm/core';
import type { JointDoor } from './door';

/** Where joints are sent to, and where they are watched. */
const [SEND, WATCH] = ['/joints/send', '/joints/watch'];
/** Bytes of a message at the most. */
const MOST_BYTES = 2 ** 20;
/** Bytes that a page has not taken yet: beyond, poses are left out. */
const BEHIND = 2 ** 20;
/** Answers to bad messages a second. */
const ANSWERS = 10;

/** Names of this machine: under another a page elsewhere may have come here. */
const OWN = ['127.0.0.1', 'localhost', '[::1]'];

/** Pages of other addresses may neither send nor watch; what is no browser says no origin. */
function foreign({ headers: { origin, host } }: IncomingMessage): boolean {
  if (origin === undefined) return false;
  if (!URL.canParse(origin)) return true;
  const page = new URL(origin);
  return page.host !== host || !OWN.includes(page.hostname);
}

/** Opens the door to WebSockets: JSON at /joints/send, and to pages at /joints/watch. */
export function openSockets(server: Server, door: JointDoor): void {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: MOST_BYTES });
  let count = 0;
  server.on('upgrade', (request, stream, head) => {
    const path = request.url?.split('?')[0];
    if (foreign(request) || (path !== SEND && path !== WATCH)) {
      stream.end(
        `HTTP/1.1 ${path === SEND || path === WATCH ? '403 Forbidden' : '404 Not Found'}\r\n\r\n`,
      );
      return;
    }
    sockets.handleUpgrade(request, stream, head, (socket) => {
      socket.on('error', (error) => {
        door.refuse(error.message);
      });
      if (path === WATCH) show(socket, door);
      else hear(socket, door, `socket ${String((count += 1))}`);
    });
  });
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
