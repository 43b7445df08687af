import type { ChildProcess } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { readFileSync } from 'node:fs';
import { connect, type Socket } from 'node:net';
import { setTimeout } from 'node:timers/promises';
import { pieceText } from '@vast-swarm/core/piece';
import type { ControlAnswer, RenderJob } from '@vast-swarm/core/formats';
import { strToU8, zipSync } from 'fflate';
import { WebSocket } from 'ws';
import { smallOrder } from '../../../tests/support/orders';
import { smallPiece } from '../../../tests/support/pieces';
import { startServer } from '../../../tests/support/startServer';
import { bundle, message } from './packets';

/** Whatever comes to the server's ports, it goes on: a desk is followed and a render is made meanwhile. */

/** Of each sort of trouble; all with `--all`. */
const MANY = process.env.ALL ? 20_000 : 1500;
const AT_ONCE = 100;

let server: ChildProcess;
let port: number;
let udp: number;
let log = '';
let desk: WebSocket;
let answers = 0;

const webSocket = (path: string, origin?: string): WebSocket =>
  new WebSocket(`ws://127.0.0.1:${String(port)}${path}`, origin === undefined ? {} : { origin });

const opened = (socket: WebSocket): Promise<unknown> =>
  new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject));

/** Resolves when the desk is answered once more. */
async function deskIsFollowed(): Promise<void> {
  const before = answers;
  desk.send('{"list": true}');
  while (answers === before) await new Promise((resolve) => desk.once('message', resolve));
}

/** A raw connection that sends a text; what becomes of it is not asked. */
function raw(text: string | Buffer, then: (socket: Socket) => void): Promise<void> {
  return new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1', () => {
      socket.write(text, () => {
        then(socket);
        resolve();
      });
    });
    socket.on('error', () => {
      resolve();
    });
  });
}

async function many(count: number, act: (i: number) => Promise<void>): Promise<void> {
  for (let i = 0; i < count; i += AT_ONCE) {
    const some = Array.from({ length: Math.min(AT_ONCE, count - i) }, (_, k) => act(i + k));
    await Promise.all(some);
  }
}

const upgrade = (path: string, origin: string): string =>
  `GET ${path} HTTP/1.1\r\nHost: 127.0.0.1:${String(port)}\r\nConnection: Upgrade\r\nUpgrade: websocket\r\n` +
  `Origin: ${origin}\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: dGhlIHNhbXBsZSBub25jZQ==\r\n\r\n`;

/** Megabytes of memory that the server holds. */
const memory = (): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${String(server.pid)}/status`, 'utf8'))![1]) /
  1024;

beforeAll(async () => {
  const { url, joints, child } = await startServer(['--threads', '1']);
  [server, port, udp] = [child, Number(new URL(url).port), joints];
  server.stderr!.on('data', (data: Buffer) => (log += data.toString()));
  desk = webSocket('/control');
  await opened(desk);
  desk.on('message', (data: Buffer) => {
    if ('controls' in (JSON.parse(data.toString()) as ControlAnswer)) answers += 1;
  });
});
afterEach(async () => {
  await deskIsFollowed();
  expect(server.exitCode).toBeNull();
  // Caught at the last: somebody had not listened.
  expect(log).not.toContain('Something went wrong');
});
afterAll(() => {
  desk.close();
  server.kill();
});

test('clients that are refused and gone before they hear it', async () => {
  const doors = [
    upgrade('/nowhere', 'http://127.0.0.1'),
    upgrade('/control/run', 'http://elsewhere.example'),
    upgrade('/joints/send?token=%', 'http://elsewhere.example'),
    upgrade('//', 'null'),
    upgrade('/control', 'http://['),
  ];
  await many(MANY, (i) =>
    raw(doors[i % doors.length]!, (socket) => {
      socket.resetAndDestroy();
    }),
  );
}, 300_000);

test('clients that are let in and gone at once, and in the middle of a message', async () => {
  const ways = ['/control', '/joints/send', '/joints/watch', '/wall/send'];
  const cut = Buffer.concat([
    Buffer.from(upgrade(ways[0]!, `http://127.0.0.1:${String(port)}`)),
    // A frame of 100 bytes, of which four come; and one whose reserved bits are set.
    Buffer.from([0x81, 0xe4, 1, 2, 3, 4, 5, 6]),
    Buffer.from([0xff, 0xff]),
  ]);
  await many(MANY, (i) =>
    raw(i % 3 ? upgrade(ways[i % 4]!, `http://127.0.0.1:${String(port)}`) : cut, (socket) => {
      socket.resetAndDestroy();
    }),
  );
}, 300_000);

test('rubbish at the port, heads without an end, and connections that say nothing', async () => {
  const waiting: Socket[] = [];
  const rubbish = Buffer.from(Array.from({ length: 4096 }, (_, i) => (i * 7919) & 255));
  const texts = [
    rubbish,
    'GET',
    'POST /api/renders HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/zip\r\nContent-Length: 900000000\r\n\r\nPK',
    `GET / HTTP/1.1\r\nX: ${'a'.repeat(40_000)}`,
    '',
    'GET /%E0%A4%A HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n',
    'POST /api/renders/../../x/pause HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: -1\r\n\r\n',
  ];
  await many(Math.min(MANY, 1000), (i) => raw(texts[i % texts.length]!, (s) => waiting.push(s)));
  await deskIsFollowed();
  for (const socket of waiting) socket.resetAndDestroy();
}, 300_000);

test('messages that are too large, binary, deep, and no messages at all, at each door', async () => {
  const own = `http://127.0.0.1:${String(port)}`;
  const deep = '['.repeat(200_000) + ']'.repeat(200_000);
  const messages = [
    'x'.repeat(2 ** 21),
    new Uint8Array(2 ** 19),
    deep,
    `{"set": "${'a'.repeat(500_000)}", "to": 1}`,
    `{"set": "a", "to": ${JSON.stringify(Array.from({ length: 90_000 }, (_, i) => i))}}`,
    '{"__proto__": {"list": true}, "set": "__proto__", "to": 1}',
    '{"offer": {}, "values": null}',
    'null',
    '',
  ];
  for (const path of ['/control', '/control/run', '/joints/send', '/joints/watch', '/wall/send']) {
    for (const text of messages) {
      const socket = webSocket(path, own);
      socket.on('error', () => undefined);
      await opened(socket);
      socket.send(text);
      socket.ping();
      // Answered, or let go.
      await new Promise((resolve) => socket.once('pong', resolve).once('close', resolve));
      socket.terminate();
    }
  }
}, 300_000);

test('more sockets than there is room for', async () => {
  const sockets = Array.from({ length: 600 }, () => webSocket('/control'));
  const ends = sockets.map(
    (socket) =>
      new Promise<boolean>((resolve) => {
        socket.once('open', () => {
          resolve(true);
        });
        socket.once('error', () => {
          resolve(false);
        });
      }),
  );
  const taken = (await Promise.all(ends)).filter(Boolean).length;
  expect(taken).toBeGreaterThan(400);
  expect(taken).toBeLessThan(600);
  for (const socket of sockets) socket.terminate();
}, 120_000);

test('a flood of messages for later is counted as it comes', async () => {
  const socket = createSocket('udp4');
  const before = memory();
  const some = Array.from({ length: 1000 }, (_, i) => message(`/control/nothing ${String(i)}`, i));
  const flood = (): Promise<unknown> =>
    new Promise((resolve) => {
      const packet = new Uint8Array(bundle(Date.now() / 1000 + 50, ...some));
      socket.send(packet, udp, '127.0.0.1', resolve);
    });
  for (let k = 0; k < 400; k++) {
    await flood();
    // As much as the system's buffer takes is what arrives.
    if (k % 20 === 0) await deskIsFollowed();
  }
  socket.send(new Uint8Array(Buffer.from('no packet at all')), udp, '127.0.0.1');
  socket.send(new Uint8Array(0), udp, '127.0.0.1');
  await deskIsFollowed();
  expect(memory() - before).toBeLessThan(150);
  // Of a second only the last that was refused is told: now there are no more than can be looked at.
  while (!log.includes('messages wait for their time')) {
    await flood();
    await setTimeout(150);
  }
  socket.close();
}, 120_000);

test('a render is made through all of it', async () => {
  const body = zipSync({
    'order.json': strToU8(JSON.stringify(smallOrder({ last: 29 }))),
    'piece.swarm.json': strToU8(pieceText(smallPiece())),
  });
  const url = `http://127.0.0.1:${String(port)}/api/renders`;
  const headers = { 'content-type': 'application/zip' };
  const answer = await fetch(url, { method: 'POST', headers, body });
  const { id } = (await answer.json()) as RenderJob;
  for (;;) {
    await many(AT_ONCE, () =>
      raw(upgrade('/nowhere', 'null'), (socket) => {
        socket.resetAndDestroy();
      }),
    );
    const { renders } = (await (await fetch(url)).json()) as { renders: RenderJob[] };
    const job = renders.find((r) => r.id === id)!;
    expect(job.problem).toBeNull();
    if (job.state === 'done') break;
  }
}, 120_000);
