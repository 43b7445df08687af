import type { ChildProcess } from 'node:child_process';
import { createSocket, type Socket } from 'node:dgram';
import { WebSocket } from 'ws';
import { makePanel, makeWall, wallText } from '@vast-swarm/core/show';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startServer, startWall } from '../../../tests/support/startServer';

/** A packet of sACN, read by the tables of ANSI E1.31-2018 (4, 5, 6 and 7). */
interface Read {
  universe: number;
  sequence: number;
  priority: number;
  source: string;
  slots: number[];
}

function readPacket(bytes: Buffer): Read {
  const length = (at: number): number => bytes.readUInt16BE(at) & 0x0fff;
  const flags = (at: number): number => bytes.readUInt16BE(at) >> 12;
  // Root layer: preamble, postamble, the packet's mark, and lengths that count from themselves on.
  expect(bytes.readUInt16BE(0)).toBe(0x0010);
  expect(bytes.readUInt16BE(2)).toBe(0);
  expect(bytes.toString('latin1', 4, 16)).toBe('ASC-E1.17\0\0\0');
  expect([flags(16), length(16)]).toEqual([7, bytes.length - 16]);
  expect(bytes.readUInt32BE(18)).toBe(4);
  // Framing layer.
  expect([flags(38), length(38)]).toEqual([7, bytes.length - 38]);
  expect(bytes.readUInt32BE(40)).toBe(2);
  expect(bytes.readUInt16BE(109)).toBe(0);
  expect(bytes[112]).toBe(0);
  // Device management protocol layer.
  expect([flags(115), length(115)]).toEqual([7, bytes.length - 115]);
  expect([bytes[117], bytes[118]]).toEqual([2, 0xa1]);
  expect(bytes.readUInt16BE(119)).toBe(0);
  expect(bytes.readUInt16BE(121)).toBe(1);
  const count = bytes.readUInt16BE(123);
  expect(count).toBe(bytes.length - 125);
  // The start code of levels.
  expect(bytes[125]).toBe(0);
  return {
    universe: bytes.readUInt16BE(113),
    sequence: bytes[111]!,
    priority: bytes[108]!,
    source: bytes.toString('utf8', 44, 108).replace(/\0+$/, ''),
    slots: [...bytes.subarray(126, 125 + count)],
  };
}

/** A packet as those tables say, with so many levels. */
function packet(universe: number, sequence: number, levels: readonly number[]): Buffer {
  const bytes = Buffer.alloc(126 + levels.length);
  bytes.writeUInt16BE(0x0010, 0);
  bytes.write('ASC-E1.17', 4, 'latin1');
  bytes.writeUInt16BE(0x7000 | (bytes.length - 16), 16);
  bytes.writeUInt32BE(4, 18);
  bytes.fill(7, 22, 38);
  bytes.writeUInt16BE(0x7000 | (bytes.length - 38), 38);
  bytes.writeUInt32BE(2, 40);
  bytes.write('a desk', 44, 'utf8');
  bytes[108] = 100;
  bytes[111] = sequence;
  bytes.writeUInt16BE(universe, 113);
  bytes.writeUInt16BE(0x7000 | (bytes.length - 115), 115);
  bytes[117] = 2;
  bytes[118] = 0xa1;
  bytes.writeUInt16BE(1, 121);
  bytes.writeUInt16BE(levels.length + 1, 123);
  bytes.set(levels, 126);
  return bytes;
}

/** What comes, one after the other. */
class Queue<T> {
  private readonly waiting: T[] = [];
  private taker: ((one: T) => void) | null = null;

  put(one: T): void {
    const { taker } = this;
    this.taker = null;
    if (taker) taker(one);
    else this.waiting.push(one);
  }

  next(): Promise<T> {
    const one = this.waiting.shift();
    return one === undefined ? new Promise((take) => (this.taker = take)) : Promise.resolve(one);
  }
}

async function bound(): Promise<{ socket: Socket; port: number; heard: Queue<Buffer> }> {
  const socket = createSocket('udp4');
  const heard = new Queue<Buffer>();
  socket.on('message', (bytes) => {
    heard.put(bytes);
  });
  await new Promise<void>((done) => socket.bind(0, '127.0.0.1', done));
  return { socket, port: socket.address().port, heard };
}

async function opened(url: string, origin: string): Promise<WebSocket> {
  const socket = new WebSocket(url, { origin });
  await new Promise((done, fail) => {
    socket.once('open', done);
    socket.once('error', fail);
  });
  return socket;
}

describe('the server, which sends what the output shows to the wall', () => {
  let wall: Awaited<ReturnType<typeof bound>>;
  let child: ChildProcess;
  let host: string;
  let log = '';
  beforeAll(async () => {
    wall = await bound();
    const server = await startServer(['--wall', `127.0.0.1:${String(wall.port)}`]);
    ({ child } = server);
    child.stderr!.on('data', (data: Buffer) => (log += data.toString()));
    host = new URL(server.url).host;
  });
  afterAll(() => {
    child.kill();
    wall.socket.close();
  });

  test('each universe has its levels, and numbers rise by one, round at 256', async () => {
    const output = await opened(`ws://${host}/wall/send`, `http://${host}`);
    const universes = [
      { universe: 7, channels: 510 },
      { universe: 8, channels: 6 },
    ];
    output.send(JSON.stringify({ universes }));
    for (let n = 0; n < 260; n++) {
      const levels = Uint8Array.from({ length: 516 }, (_, i) => (i * 7 + n) % 256);
      output.send(levels);
      const two = [readPacket(await wall.heard.next()), readPacket(await wall.heard.next())];
      const [seven, eight] = two.sort((a, b) => a.universe - b.universe) as [Read, Read];
      expect(seven).toMatchObject({ universe: 7, priority: 100, source: 'Vast Swarm' });
      expect(eight.universe).toBe(8);
      expect([seven.sequence, eight.sequence]).toEqual([n % 256, n % 256]);
      expect(seven.slots.slice(0, 510)).toEqual([...levels.subarray(0, 510)]);
      expect(eight.slots.slice(0, 6)).toEqual([...levels.subarray(510)]);
      // What a wall has no pixels for is dark.
      expect(eight.slots.slice(6).every((v) => v === 0)).toBe(true);
    }
    output.close();
  });

  test.each([
    ['levels before universes are said', Uint8Array.of(1, 2, 3), '3 levels came, 0 were said to'],
    ['no JSON', 'levels', 'this is not JSON'],
    ['a universe that there is not', '{"universes":[{"universe":64000,"channels":3}]}', '63999'],
    ['more channels than one has', '{"universes":[{"universe":1,"channels":513}]}', '512'],
  ])('%s: it is logged, and nothing is sent', async (_, what, why) => {
    const output = await opened(`ws://${host}/wall/send`, `http://${host}`);
    const closed = new Promise<number>((done) => output.once('close', done));
    output.send(what);
    expect(await closed).toBe(1008);
    expect(log).toContain(why);
  });

  test('a page of another address may not', async () => {
    await expect(opened(`ws://${host}/wall/send`, 'http://127.0.0.1:9')).rejects.toThrow('403');
  });
});

describe('the stand-in', () => {
  let folder: string;
  let child: ChildProcess;
  let host: string;
  let port: number;
  const WALL = makeWall([makePanel('a', { columns: 2, rows: 1 })]);
  beforeAll(async () => {
    folder = await mkdtemp(join(tmpdir(), 'wall-'));
    const map = join(folder, 'wall.json');
    await writeFile(map, wallText(WALL));
    const started = await startWall(['--map', map]);
    ({ child, port } = started);
    host = new URL(started.url).host;
  });
  afterAll(async () => {
    child.kill();
    await rm(folder, { recursive: true });
  });

  test('tells its page the map, and the levels that it hears, the late and the broken not', async () => {
    const page = new WebSocket(`ws://${host}/wall/levels`, { origin: `http://${host}` });
    const texts = new Queue<string>();
    const levels = new Queue<Buffer>();
    page.on('message', (data: Buffer, binary) => {
      if (binary) levels.put(data);
      else texts.put(data.toString());
    });
    expect(JSON.parse(await texts.next())).toEqual({ wall: WALL });
    const desk = createSocket('udp4');
    const send = (bytes: Buffer): Promise<void> =>
      new Promise((done) => desk.send(new Uint8Array(bytes), port, '127.0.0.1', () => done()));
    const heard = async (): Promise<number[]> => [...(await levels.next())];
    const hears = async (sequence: number, first: number): Promise<void> => {
      await send(packet(3, sequence, [first, 20, 30, 40, 50, 60]));
      expect(await heard()).toEqual([0, 3, 0, 6, first, 20, 30, 40, 50, 60]);
    };
    await hears(250, 10);
    await send(Buffer.from('nothing of the kind'));
    await send(packet(3, 249, [1, 1, 1, 1, 1, 1]));
    await send(packet(3, 250, [2, 2, 2, 2, 2, 2]));
    // Round at 256 it is later; and far behind, somebody has begun anew.
    await hears(2, 11);
    await hears(200, 12);
    let counts = { packets: 0, late: 0, refused: 0, universes: 0 };
    while (counts.packets < 5)
      ({ counts } = JSON.parse(await texts.next()) as { counts: typeof counts });
    expect(counts).toEqual({ packets: 5, late: 2, refused: 1, universes: 1 });
    desk.close();
    page.close();
  });
});
