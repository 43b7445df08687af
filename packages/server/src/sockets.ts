import type { Server } from 'node:http';
import { WebSocketServer, type WebSocket } from 'ws';
import type { Guard } from './guard';

/** Bytes of a message at the most, and sockets at once. */
const [MOST_BYTES, MOST_SOCKETS] = [2 ** 20, 512];

/** The server behind an address. */
export interface Route {
  /** Whether pages of this machine may come from any port. */
  anyPort: boolean;
  /** @param name what the socket is called where something has to be told of it */
  open: (socket: WebSocket, name: string) => void;
}

/** Opens the server to WebSockets at some addresses. */
export function openSockets(
  server: Server,
  guard: Guard,
  routes: ReadonlyMap<string, Route>,
): void {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: MOST_BYTES });
  let count = 0;
  server.on('upgrade', (request, stream, head) => {
    const route = routes.get(request.url?.split('?')[0] ?? '');
    const status = !route
      ? '404 Not Found'
      : !guard.admits(request, route.anyPort)
        ? '403 Forbidden'
        : sockets.clients.size >= MOST_SOCKETS
          ? '503 Service Unavailable'
          : null;
    if (!route || status !== null) {
      // Who is gone before it is answered is no trouble of ours; unheard, it would end the server.
      stream.on('error', () => undefined);
      stream.end(`HTTP/1.1 ${status ?? ''}\r\n\r\n`);
      return;
    }
    sockets.handleUpgrade(request, stream, head, (socket) => {
      route.open(socket, `socket ${String((count += 1))}`);
    });
  });
}
