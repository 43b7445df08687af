import '@vast-swarm/core/content';
import { spawn, type ChildProcess } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { request } from 'node:http';
import { WebSocket } from 'ws';
import { made, placesAt, type Motion } from '@vast-swarm/core/stock';
import type { DoorNews } from '@vast-swarm/core/formats';
import { CLI } from '../../../tests/support/cli';
import { startServer } from '../../../tests/support/startServer';

/** The server as it is started, with what is sent to it and watched from outside. */

let server: ChildProcess;
let log = '';
let http = 0;
let udp = 0;

beforeAll(async () => {
  const { url, joints, child } = await startServer();
  [server, http, udp] = [child, Number(new URL(url).port), joints];
  server.stderr!.on('data', (data: Buffer) => (log += data.toString()));
});
afterAll(() => server.kill());

/** A page that watches. */
class Watcher {
  readonly news: DoorNews[] = [];
  private readonly socket: WebSocket;
  private tell: () => void = () => undefined;

  constructor() {
    this.socket = new WebSocket(`ws://127.0.0.1:${String(http)}/joints/watch`, {
      origin: `http://127.0.0.1:${String(http)}`,
    });
    this.socket.on('message', (data: Buffer) => {
      this.news.push(JSON.parse(data.toString()) as DoorNews);
      this.tell();
    });
  }

  get poses() {
    return this.news.flatMap((n) => ('pose' in n ? [n] : []));
  }

  async until(holds: () => boolean): Promise<void> {
    while (!holds()) await new Promise<void>((resolve) => (this.tell = resolve));
  }

  close(): void {
    this.socket.close();
  }
}

async function opened(path: string): Promise<WebSocket> {
  const socket = new WebSocket(`ws://127.0.0.1:${String(http)}${path}`);
  await new Promise((resolve) => socket.once('open', resolve));
  return socket;
}

test('two made-up dancers come in by Open Sound Control as they dance, whole and in order', async () => {
  const watcher = new Watcher();
  const dance = spawn(process.execPath, [
    CLI,
    'stand-in',
    'performers',
    '--port',
    String(udp),
    '--seconds',
    '6',
  ]);
  await watcher.until(() => watcher.poses.length > 150);
  const motion = made('pierDancers') as Motion;
  const [ada] = motion.performers;
  const present = watcher.news.flatMap((n) => ('present' in n ? [n.present] : [])).at(-1)!;
  expect(present.map((p) => p.name)).toEqual(['Ada', 'Bo']);
  expect(present[0]!.joints).toEqual(ada!.joints.map((j) => j.name));
  expect(present[0]!.bones['left hand']).toBe('left elbow');
  const seen = watcher.poses.filter((p) => p.pose === 'Ada');
  const whole = seen.filter((p) => p.places.length === 3 * ada!.joints.length);
  expect(whole.length).toBeGreaterThan(seen.length - 3);
  const times = whole.map((p) => p.time);
  expect(times).toEqual([...times].sort((a, b) => a - b));
  // Each pose is one of the dance, and the next is a beat later or more.
  const beat = (places: readonly number[]): number => {
    const at = new Float32Array(places.length);
    for (let k = 0; k < 400; k++) {
      placesAt(motion, ada!, k / 60, at);
      if (places.every((v, i) => v === at[i])) return k;
    }
    return -1;
  };
  const beats = whole.map((p) => beat(p.places));
  expect(Math.min(...beats)).toBeGreaterThanOrEqual(0);
  beats.slice(1).forEach((b, i) => expect(b).toBeGreaterThan(beats[i]!));
  dance.kill();
  watcher.close();
});

test('JSON comes in by WebSocket; what is wrong is answered with what and where, and nothing of it is passed on', async () => {
  const watcher = new Watcher();
  const sender = await opened('/joints/send');
  const answers: string[] = [];
  sender.on('message', (data: Buffer) => {
    answers.push((JSON.parse(data.toString()) as { error: string }).error);
  });
  const good = { performer: 'Cy', time: 3, joints: { head: [0, 1.5, 0] }, bones: { head: 'neck' } };
  for (const bad of [
    'nonsense',
    JSON.stringify({ ...good, performer: '' }),
    JSON.stringify({ ...good, joints: { head: [0, 1] } }),
    JSON.stringify([good, { ...good, joints: { head: [0, 1, 'far'] } }]),
    JSON.stringify({ ...good, colour: 'red' }),
    JSON.stringify(null),
  ]) {
    sender.send(bad);
  }
  sender.send(JSON.stringify(good));
  await watcher.until(() => watcher.poses.some((p) => p.pose === 'Cy'));
  expect(watcher.poses.filter((p) => p.pose === 'Cy')).toEqual([
    { pose: 'Cy', time: 3, places: [0, 1.5, 0] },
  ]);
  expect(answers.map((a) => a.split(':')[0])).toEqual([
    expect.stringContaining('not valid JSON'),
    'performer',
    'joints.head',
    '1.joints.head.2',
    'Unrecognized key',
    expect.stringContaining('Invalid input'),
  ]);
  sender.close();
  watcher.close();
});

test('rubbish and ten thousand messages a second harm nobody: who sends well is heard, and it is told', async () => {
  const watcher = new Watcher();
  const socket = createSocket('udp4');
  const sender = await opened('/joints/send');
  for (let n = 0; n < 10_000; n++) {
    socket.send(Buffer.from(`rubbish \u001b[31m ${String(n)}`), udp, '127.0.0.1');
    if (n % 100 !== 0) continue;
    sender.send(JSON.stringify({ performer: 'Di', joints: { head: [n, 0, 0] } }));
    await new Promise((resolve) => setImmediate(resolve));
  }
  await watcher.until(() => watcher.poses.some((p) => p.pose === 'Di' && p.places[0] === 9900));
  await watcher.until(() => watcher.news.some((n) => 'refused' in n && n.refused > 100));
  expect(log).toMatch(/Joints: \d+ messages were not taken: 127\.0\.0\.1:\d+: /);
  expect(log).not.toContain('\u001b');
  socket.close();
  sender.close();
  watcher.close();
});

test('pages of other addresses are not let in, and there is nothing at other paths', async () => {
  const status = (path: string, origin: string): Promise<number> =>
    new Promise((resolve) => {
      const headers = {
        Host: `127.0.0.1:${String(http)}`,
        Origin: origin,
        Connection: 'Upgrade',
        Upgrade: 'websocket',
        'Sec-WebSocket-Key': 'dGhlIHNhbXBsZSBub25jZQ==',
        'Sec-WebSocket-Version': '13',
      };
      const asked = request({ port: http, path, headers }, (answer) => {
        resolve(answer.statusCode!);
        answer.resume();
      });
      asked.on('upgrade', (_, stream) => {
        stream.destroy();
        resolve(101);
      });
      asked.end();
    });
  const own = `http://127.0.0.1:${String(http)}`;
  expect(await status('/joints/watch', own)).toBe(101);
  expect(await status('/joints/watch', 'http://elsewhere.example')).toBe(403);
  expect(await status('/joints/send', 'null')).toBe(403);
  expect(await status('/joints/other', own)).toBe(404);
});

test('a second server beside it says that its port is taken, and serves all the same', async () => {
  const other = spawn(process.execPath, [CLI, 'serve', '--port', '0', '--joints', String(udp)], {
    stdio: 'pipe',
  });
  let both = '';
  await new Promise<void>((resolve) => {
    const hear = (data: Buffer): void => {
      both += data.toString();
      if (both.includes('is ready') && both.includes('cannot be used')) resolve();
    };
    other.stdout.on('data', hear);
    other.stderr.on('data', hear);
  });
  expect(both).toContain(`UDP port ${String(udp)} cannot be used: `);
  expect(both).toContain('no UDP port');
  other.kill();
});

test('what nobody stands in for is refused with what there is', async () => {
  const asked = spawn(process.execPath, [CLI, 'stand-in', 'orchestra'], { stdio: 'pipe' });
  let said = '';
  asked.stderr.on('data', (data: Buffer) => (said += data.toString()));
  const code = await new Promise((resolve) => asked.once('close', resolve));
  expect([code, said]).toEqual([
    1,
    "There is no stand-in for 'orchestra'; there are some for: performers and wall.\n",
  ]);
});
