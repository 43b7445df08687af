import type { ChildProcess } from 'node:child_process';
import { createSocket, type Socket } from 'node:dgram';
import { networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { WebSocket } from 'ws';
import type { ControlAnswer, Moved, Offer, OutsideAct, RunnerTold } from '@vast-swarm/core/formats';
import { startServer } from '../../../tests/support/startServer';
import { bundle, message, readMessage, typed, type Arg } from './packets';

/** The server as it is started, a page that runs a piece, and those who run it from outside. */

const OFFER: Offer = {
  piece: 'Ember Barge',
  controls: [
    { id: 'spread', name: 'Spread', holds: 'number', group: 'Fire', unit: '', low: 0, high: 1 },
    { id: 'wind', name: 'Big wind', holds: 'number', group: '', unit: 'm/s', low: -4, high: 4 },
    { id: 'smoke', name: 'Smoke', holds: 'switch', group: '', unit: '' },
    { id: 'tint', name: 'Tint', holds: 'colour', group: '', unit: '' },
    { id: 'mode', name: 'Mode', holds: 'option', group: '', unit: '', options: ['add', 'normal'] },
    { id: 'flame', name: 'Flame', holds: 'gradient', group: '', unit: '' },
  ],
  cues: [
    { id: 'gust', name: 'Gust' },
    { id: 'embers', name: 'Embers' },
  ],
  learnt: ['osc /desk/fader/3'],
};

/** The client of docs/examples. */
interface Client {
  set: (name: string, to: unknown, over?: number) => Promise<unknown>;
  cue: (name: string) => Promise<unknown>;
  go: (name?: string) => Promise<unknown>;
  blackout: (on: boolean) => Promise<unknown>;
  list: () => Promise<{ controls: unknown[] }>;
  watch: (call: (values: unknown) => void) => void;
  close: () => void;
}

let server: ChildProcess;
let log = '';
let http = '';
let udp = 0;
let page: Page;

/** A socket with what came, and what waits for more. */
class Ears<T> {
  readonly heard: T[] = [];
  private tell: () => void = () => undefined;

  hear(what: T): void {
    this.heard.push(what);
    this.tell();
  }

  async until(holds: (heard: readonly T[]) => boolean): Promise<void> {
    while (!holds(this.heard)) await new Promise<void>((resolve) => (this.tell = resolve));
  }

  async next(): Promise<T> {
    const { length } = this.heard;
    await this.until((heard) => heard.length > length);
    return this.heard[length]!;
  }
}

async function opened(path: string, origin?: string): Promise<WebSocket> {
  const socket = new WebSocket(`ws://${http}${path}`, origin === undefined ? {} : { origin });
  await new Promise((resolve, reject) => {
    socket.once('open', resolve);
    socket.once('error', reject);
  });
  return socket;
}

/** The page that runs the piece. */
class Page extends Ears<OutsideAct> {
  socket!: WebSocket;
  readonly moved: Moved[] = [];

  async open(): Promise<void> {
    this.socket = await opened('/control/run', `http://${http}`);
    this.socket.on('message', (data: Buffer) => {
      const { acts, moved } = JSON.parse(data.toString()) as RunnerTold;
      this.moved.push(...moved);
      for (const act of acts) this.hear(act);
    });
    this.socket.send(JSON.stringify({ offer: OFFER }));
    this.socket.send(JSON.stringify({ values: { spread: 0.4, smoke: true } }));
  }
}

/** Somebody who sends JSON. */
class Hand extends Ears<ControlAnswer> {
  private socket!: WebSocket;

  async open(origin?: string): Promise<this> {
    this.socket = await opened('/control', origin);
    this.socket.on('message', (data: Buffer) => {
      this.hear(JSON.parse(data.toString()) as ControlAnswer);
    });
    return this;
  }

  /** Sends something, and gives the answer. */
  ask(what: unknown): Promise<ControlAnswer> {
    const answer = this.next();
    this.socket.send(typeof what === 'string' ? what : JSON.stringify(what));
    return answer;
  }

  close(): void {
    this.socket.close();
  }
}

/** Somebody who sends packets of Open Sound Control. */
class OscHand extends Ears<ReturnType<typeof readMessage>> {
  readonly socket: Socket = createSocket('udp4');

  constructor() {
    super();
    this.socket.on('message', (packet) => {
      this.hear(readMessage(packet));
    });
  }

  send(packet: Buffer): void {
    this.socket.send(new Uint8Array(packet), udp, '127.0.0.1');
  }
}

beforeAll(async () => {
  const { url, joints, child } = await startServer();
  [server, http, udp] = [child, new URL(url).host, joints];
  server.stderr!.on('data', (data: Buffer) => (log += data.toString()));
});
afterAll(() => server.kill());

let hand: Hand;
let desk: OscHand;
beforeEach(async () => {
  page = new Page();
  await page.open();
  hand = await new Hand().open();
  desk = new OscHand();
  // The page has been heard when the list has what it offers.
  for (;;) {
    const told = await hand.ask({ list: true });
    if ('piece' in told && told.controls.some((c) => c.value === 0.4)) break;
  }
});
afterEach(() => {
  page.socket.close();
  hand.close();
  desk.socket.close();
});

test('controls are set and cues fired by name, however it is written', async () => {
  expect(await hand.ask({ set: 'spread', to: 0.7, over: 3 })).toEqual({ done: 'spread' });
  await page.until((acts) => acts.length === 1);
  expect(await hand.ask({ set: 'BIG wind', to: -4 })).toEqual({ done: 'big-wind' });
  expect(await hand.ask({ set: 'big_wind', to: 4, ease: 'rush' })).toEqual({ done: 'big-wind' });
  expect(await hand.ask({ cue: 'Gust' })).toEqual({ done: 'gust' });
  await page.until((acts) => acts.some((a) => 'cue' in a));
  expect(page.heard[0]).toEqual({ control: 'spread', to: 0.7, over: 3 });
  // What came in one go is joined: of one control the last counts.
  expect(page.heard.at(-2)).toEqual({ control: 'wind', to: 4, ease: 'rush' });
  expect(page.heard.at(-1)).toEqual({ cue: 'gust' });
});

test.each([
  [{ set: 'sprad', to: 1 }, 'there is no control "sprad"; there are spread, big-wind, smoke'],
  [{ set: 'spread', to: 1.01 }, 'spread is a number from 0 to 1; it cannot be 1.01'],
  [{ set: 'big wind', to: '3' }, 'big-wind is a number from -4 to 4 m/s; it cannot be "3"'],
  [{ set: 'spread', to: null }, 'it cannot be null'],
  [{ set: 'smoke', to: 2 }, 'smoke is a switch'],
  [{ set: 'tint', to: 'red' }, 'a colour, written "#rrggbb"'],
  [{ set: 'mode', to: 'screen' }, 'mode is one of "add", "normal"; it cannot be "screen"'],
  [{ set: 'flame', to: [{ at: 0 }] }, 'flame is a gradient'],
  [{ set: 'spread', to: 0.5, over: -1 }, 'this is not understood'],
  [{ set: '/a"\n\u001b[31m/b'.repeat(50), to: 1 }, 'this is not understood'],
  [{ set: '/a"\n\u001b[31m', to: 1 }, 'there is no control "/a\\"??[31m"; there are spread'],
  [{ cue: 'gusts' }, 'there is no cue "gusts"; there are gust, embers'],
  [{ fire: 'gust' }, 'this is not understood; known are {"set"'],
  ['{"set": "spread", "to": NaN}', 'this is not JSON'],
  ['', 'this is not JSON'],
  [[], 'this is not understood'],
])('message %# is answered with what there is, and nothing is done', async (what, error) => {
  const answer = await hand.ask(what);
  expect(answer).toEqual({ error: expect.stringContaining(error) as string });
  await hand.ask({ cue: 'embers' });
  await page.until((acts) => acts.length > 0);
  expect(page.heard).toEqual([{ cue: 'embers' }]);
});

test('of a show, pieces are gone to, the next begins, and it goes dark and bright', async () => {
  const pieces = [
    { id: 'e1', name: 'Foghorn' },
    { id: 'e2', name: "Lamplighter's Copy" },
  ];
  expect(await hand.ask({ piece: 'foghorn' })).toEqual({
    error: expect.stringContaining('no show is being run') as string,
  });
  page.socket.send(JSON.stringify({ offer: { ...OFFER, pieces } }));
  let told = await hand.ask({ list: true });
  while ('controls' in told && !told.pieces) told = await hand.ask({ list: true });
  expect(told).toMatchObject({
    pieces: [
      { called: 'foghorn', name: 'Foghorn' },
      { called: "lamplighter's-copy", name: "Lamplighter's Copy" },
    ],
  });
  expect(await hand.ask({ piece: 'FOGHORN' })).toEqual({ done: 'foghorn' });
  expect(await hand.ask({ blackout: true })).toEqual({ done: 'blackout' });
  expect(await hand.ask({ next: true })).toEqual({ done: 'next' });
  expect(await hand.ask({ piece: 'Foghorns' })).toEqual({
    error: 'there is no piece "Foghorns"; there are foghorn, lamplighter\'s-copy',
  });
  desk.send(bundle(0, message('/piece/foghorn', 1), message('/piece/foghorn', 0)));
  desk.send(bundle(0, message('/next', 1), message('/next', 0), message('/blackout', 0)));
  await page.until((acts) => acts.length >= 6);
  expect(page.heard).toEqual([
    { all: 'go', entry: 'e1' },
    { all: 'blackout', to: true },
    { all: 'go' },
    { all: 'go', entry: 'e1' },
    { all: 'go' },
    { all: 'blackout', to: false },
  ]);
});

test('whoever watches is told what changes, and no more', async () => {
  const watcher = await new Hand().open();
  const first = watcher.ask({ watch: true });
  expect(await first).toEqual({ values: { spread: 0.4, smoke: true } });
  const next = watcher.next();
  page.socket.send(JSON.stringify({ values: { spread: 0.5 } }));
  expect(await next).toEqual({ values: { spread: 0.5 } });
  watcher.close();
});

const KINDS: [Arg, OutsideAct][] = [
  [{ f: 0.5 }, { control: 'spread', to: 0.5 }],
  [{ i: 1 }, { control: 'spread', to: 1 }],
  [{ d: 0.125 }, { control: 'spread', to: 0.125 }],
  [{ h: 0n }, { control: 'spread', to: 0 }],
  [{ T: true }, { control: 'smoke', to: true }],
  [{ F: true }, { control: 'smoke', to: false }],
  [{ i: 0 }, { control: 'smoke', to: false }],
  [{ s: 'on' }, { control: 'smoke', to: true }],
  [{ s: '#FF8000' }, { control: 'tint', to: '#ff8000' }],
  [{ r: [255, 128, 0, 255] }, { control: 'tint', to: '#ff8000' }],
  [{ S: 'normal' }, { control: 'mode', to: 'normal' }],
];

test.each(KINDS)('by Open Sound Control a control takes %j', async (arg, act) => {
  const { control } = act as { control: string };
  desk.send(typed(`/control/${control}`, arg));
  await page.until((acts) => acts.length > 0);
  expect(page.heard).toEqual([act]);
});

test('bundles are done at their time, in order, and a button that is let go fires nothing', async () => {
  const begun = Date.now() / 1000;
  desk.send(
    bundle(begun + 0.4, message('/control/spread', 0.9, 2), bundle(0, message('/cue/gust', 1))),
  );
  desk.send(bundle(0, message('/cue/embers', 0), message('/control/big-wind', 2)));
  await page.until((acts) => acts.length >= 3);
  // What stands in a bundle that says at once is done with the one around it.
  expect(page.heard).toEqual([
    { control: 'wind', to: 2 },
    { control: 'spread', to: expect.closeTo(0.9, 6) as number, over: 2 },
    { cue: 'gust' },
  ]);
  expect(Date.now() / 1000 - begun).toBeGreaterThan(0.39);
});

test.each([
  [
    'an unknown name',
    message('/control/sprad', 1),
    'there is no control "sprad"; there are spread',
  ],
  ['not a number', message('/control/spread', NaN), 'it cannot be NaN'],
  ['an infinite one', message('/control/spread', Infinity), 'it cannot be Infinity'],
  ['no value', typed('/control/spread'), 'it cannot be undefined'],
  ['nothing', typed('/control/spread', { N: true }), 'it cannot be null'],
  [
    'a blob',
    typed('/control/spread', { b: Buffer.from([1, 2]) }),
    'spread is a number from 0 to 1',
  ],
  ['a name of 10,000 letters', message(`/cue/${'x'.repeat(10_000)}`), 'this is not understood'],
])('by Open Sound Control %s is answered', async (_, packet, error) => {
  const answer = desk.next();
  desk.send(packet);
  expect(await answer).toEqual({
    address: '/answer/error',
    args: [expect.stringContaining(error) as string],
  });
  expect(page.heard).toEqual([]);
});

test('the list tells names with ranges, by Open Sound Control too', async () => {
  desk.send(message('/list'));
  await desk.until((heard) => heard.length >= 9);
  expect(desk.heard[0]).toEqual({ address: '/answer/piece', args: ['Ember Barge'] });
  const spread = desk.heard.find((m) => m.address === '/answer/control/spread')!;
  expect(spread.args.map((a) => (typeof a === 'number' ? Number(a.toFixed(3)) : a))).toEqual([
    'number',
    0.4,
    0,
    1,
    '',
  ]);
  expect(desk.heard.at(-1)).toEqual({ address: '/answer/cue/embers', args: ['Embers'] });
});

test('addresses of others are moved: one that was learnt in silence, another is answered', async () => {
  desk.send(message('/desk/fader/3', 0.25));
  const answer = desk.next();
  desk.send(message('/desk/fader/4', 0.5));
  expect((await answer).args).toEqual([
    'osc /desk/fader/4 is not known, and no control has learnt it',
  ]);
  desk.send(message('/cue/gust'));
  await page.until((acts) => acts.length > 0);
  expect(page.moved).toEqual([
    { source: 'osc /desk/fader/3', value: 0.25 },
    { source: 'osc /desk/fader/4', value: 0.5 },
  ]);
  const text = desk.next();
  desk.send(typed('/desk/name', { s: 'any' }));
  expect((await text).args[0]).toContain('"/desk/name" is not known; known are /control/<name>');
});

test('without a page that runs a piece that is said, and it is logged', async () => {
  page.socket.close();
  let answer = await hand.ask({ cue: 'gust' });
  while ('done' in answer) answer = await hand.ask({ cue: 'gust' });
  expect(answer).toEqual({ error: 'no piece is being run; open one and let it listen' });
  while (!/Controls: \d+ messages were not followed: .*no piece is being run/.test(log)) {
    await new Promise<void>((resolve) =>
      server.stderr!.once('data', () => {
        resolve();
      }),
    );
  }
});

test('pages of other addresses may not; those of this machine may, and none of them may run a piece but its own', async () => {
  await expect(opened('/control', 'https://elsewhere.example')).rejects.toThrow('403');
  await expect(opened('/control', 'null')).rejects.toThrow('403');
  await expect(opened('/control/run', 'http://127.0.0.1:1')).rejects.toThrow('403');
  const other = await new Hand().open('http://localhost:8123');
  expect(await other.ask({ list: true })).toHaveProperty('piece', 'Ember Barge');
  other.close();
});

test('the client of the docs: sets, fires, lists, watches, and tells what is not followed', async () => {
  const path = join(__dirname, '../../../docs/examples/control/control.js');
  const { connect } = (await import(path)) as {
    connect: (url: string, socket: typeof WebSocket) => Promise<Client>;
  };
  const piece = await connect(`ws://${http}/control`, WebSocket);
  await piece.set('spread', 1, 3);
  await piece.cue('gust');
  await page.until((acts) => acts.length === 2);
  expect(page.heard).toEqual([{ control: 'spread', to: 1, over: 3 }, { cue: 'gust' }]);
  await expect(piece.set('sprad', 1)).rejects.toThrow('there is no control "sprad"; there are');
  expect((await piece.list()).controls).toHaveLength(OFFER.controls.length);
  const values = await new Promise((resolve) => {
    piece.watch(resolve);
  });
  expect(values).toEqual({ spread: 0.4, smoke: true });
  await expect(piece.go('foghorn')).rejects.toThrow('no show is being run');
  page.socket.send(
    JSON.stringify({ offer: { ...OFFER, pieces: [{ id: 'e1', name: 'Foghorn' }] } }),
  );
  while (!('pieces' in (await piece.list())));
  await piece.go('foghorn');
  await piece.go();
  await piece.blackout(true);
  await page.until((acts) => acts.length === 5);
  expect(page.heard.slice(2)).toEqual([
    { all: 'go', entry: 'e1' },
    { all: 'go' },
    { all: 'blackout', to: true },
  ]);
  piece.close();
  await expect(connect('ws://127.0.0.1:9/control', WebSocket)).rejects.toThrow('nobody answers');
});

// Behind all that this server is asked: for a second it has no time.
test('50,000 messages in a burst, broken packets and 200 silent sockets: the next one is followed', async () => {
  const silent = await Promise.all(Array.from({ length: 200 }, () => opened('/control')));
  for (let i = 0; i < 50_000; i++) {
    desk.send(
      i % 100 === 0 ? Buffer.from([47, 99, 0]) : message('/control/spread', (i % 1000) / 1000),
    );
    // Sent as fast as they go, the sender's own buffer would fill.
    if (i % 500 === 0) await new Promise((resolve) => setImmediate(resolve));
  }
  await page.until((acts) => acts.length > 0);
  // Joined: the page gets a few a hundredth of a second, not each of them.
  expect(page.heard.length).toBeLessThan(5000);
  // After the second in which there were too many, which is answered too.
  let answer = await hand.ask({ cue: 'gust' });
  while (!('done' in answer)) {
    expect(answer).toEqual({ error: expect.stringContaining('send fewer') as string });
    await new Promise((resolve) => setTimeout(resolve, 100));
    answer = await hand.ask({ cue: 'gust' });
  }
  await page.until((acts) => acts.some((a) => 'cue' in a));
  for (const socket of silent) socket.close();
});

test('where other machines are listened to, they have to know the token', async () => {
  const { url, joints, child } = await startServer([
    '--host',
    '0.0.0.0',
    '--token',
    'salt & lamps',
  ]);
  const { port } = new URL(url);
  const asked = (address: string, query = '') =>
    new Promise((resolve) => {
      const socket = new WebSocket(`ws://${address}:${port}/control${query}`);
      socket.once('open', () => {
        socket.close();
        resolve('open');
      });
      socket.once('error', (error) => {
        resolve(error.message);
      });
    });
  const [other] = Object.values(networkInterfaces())
    .flat()
    .filter((a) => a?.family === 'IPv4' && !a.internal);
  expect(await asked('127.0.0.1')).toBe('open');
  // A machine without a network has no other address to come from.
  const far = other?.address;
  if (far !== undefined) {
    expect(await asked(far)).toContain('403');
    expect(await asked(far, '?token=salt')).toContain('403');
    expect(await asked(far, `?token=${encodeURIComponent('salt & lamps')}`)).toBe('open');
    const sender = createSocket('udp4');
    const heard = new Ears<string>();
    sender.on('message', (packet) => {
      heard.hear(readMessage(packet).address);
    });
    const send = (packet: Buffer): void => {
      sender.send(new Uint8Array(packet), joints, far);
    };
    send(message('/list'));
    send(typed('/token', { s: 'salt' }));
    send(message('/control/any', 1));
    send(typed('/token', { s: 'salt & lamps' }));
    send(message('/list'));
    await heard.until((all) => all.length > 0);
    expect(heard.heard).toEqual(['/answer/piece']);
    sender.close();
  }
  child.kill();
});
