import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fromBuffer } from 'osc-min';
import { posesOf, type DoorNews, type SentPose } from '@vast-swarm/core/formats';
import { JointDoor } from '../src/joints/door';
import { posesOfMessages } from '../src/joints/osc';
import { messagesOf } from '../src/oscMessages';
import { bundle, message, text } from './packets';

const posesOfPacket = (packet: Uint8Array): SentPose[] =>
  posesOfMessages(messagesOf(fromBuffer(packet)));

test('messages and bundles are poses: in one bundle all that is of one time', () => {
  expect(posesOfPacket(message('/performer/Ada/joint/left_hand', 1, 2.5, -3))).toEqual([
    { performer: 'Ada', joints: { 'left hand': [1, 2.5, -3] }, bones: {} },
  ]);
  const bone = Buffer.concat([text('/performer/Ada/bone/hand'), text(',s'), text('elbow')]);
  const both = bundle(
    1_700_000_000.5,
    message('/performer/Ada/joint/a', 0, 1, 2),
    message('/performer/Bo/joint/a', 3, 4, 5),
    message('/performer/Ada/joint/b', 6, 7, 8),
    bone,
  );
  expect(posesOfPacket(both)).toEqual([
    {
      performer: 'Ada',
      time: 1_700_000_000.5,
      bones: { hand: 'elbow' },
      joints: { a: [0, 1, 2], b: [6, 7, 8] },
    },
    { performer: 'Bo', time: 1_700_000_000.5, joints: { a: [3, 4, 5] }, bones: {} },
  ]);
  // The tag that means `at once` is no time.
  const atOnce = posesOfPacket(bundle(0, message('/performer/Ada/joint/a', 0, 1, 2)));
  expect(atOnce[0]!.time).toBeUndefined();
});

test.each([
  ['another address', message('/light/1', 1), '"/light/1" is not known; known is /performer/'],
  ['two numbers', message('/performer/Ada/joint/a', 1, 2), 'joints.a: three numbers are wanted'],
  ['no number', message('/performer/Ada/joint/a', 1, 2, NaN), 'joints.a.2: '],
  ['far away', message('/performer/Ada/joint/a', 1, 2, 1e9), 'joints.a.2: '],
  ['a control character', message('/performer/A\u001b[31m/joint/a', 1, 2, 3), 'is not printable'],
  ['a long name', message(`/performer/${'x'.repeat(65)}/joint/a`, 1, 2, 3), 'performer: '],
])('%s is refused, and it is said why', (_, packet, why) => {
  expect(() => posesOfPacket(packet)).toThrow(why);
});

test('the message in the docs is one', async () => {
  const docs = await readFile(join(__dirname, '../../../docs/joints.md'), 'utf8');
  const [, json] = /```json\n([^]*?)```/.exec(docs)!;
  expect(posesOf(JSON.parse(json!))).toEqual([
    {
      performer: 'Ada',
      time: 12.5,
      bones: { head: 'neck' },
      joints: { head: [0, 1.6, 0], neck: [0, 1.45, 0] },
    },
  ]);
});

test('rubbish is refused: cut-off packets, turned bits and noise, ten thousand of them', () => {
  const good = bundle(
    5,
    message('/performer/Ada/joint/a', 0, 1, 2),
    message('/performer/Ada/joint/b', 0, 1, 2),
  );
  let state = 1;
  const random = (below: number): number => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state % below;
  };
  let refused = 0;
  for (let n = 0; n < 10_000; n++) {
    const packet =
      n % 3 === 0
        ? Buffer.from(Array.from({ length: random(90) }, () => random(256)))
        : Buffer.from(good);
    if (n % 3 === 1) packet[random(packet.length)]! ^= 1 << random(8);
    const cut = n % 3 === 2 ? packet.subarray(0, random(packet.length)) : packet;
    try {
      for (const { joints } of posesOfPacket(cut)) {
        for (const place of Object.values(joints)) expect(place.every(Number.isFinite)).toBe(true);
      }
    } catch (error) {
      expect(error).toBeInstanceOf(Error);
      refused += 1;
    }
  }
  expect(refused).toBeGreaterThan(6000);
});

describe('the door', () => {
  let now = 0;
  let door: JointDoor;
  let news: DoorNews[];
  const lines: string[] = [];
  beforeEach(() => {
    jest.useFakeTimers();
    now = 1000;
    news = [];
    lines.length = 0;
    door = new JointDoor(
      'here',
      (line) => lines.push(line),
      () => now,
    );
    door.watch((one) => news.push(one));
  });
  afterEach(() => {
    door.close();
    jest.useRealTimers();
  });
  const pass = (milliseconds: number): void => {
    now += milliseconds;
    jest.advanceTimersByTime(milliseconds);
  };
  const take = (
    sender: string,
    performer: string,
    joints: Record<string, [number, number, number]>,
    time?: number,
  ): void => {
    door.take(sender, { performer, joints, bones: {}, time });
  };
  const poses = () => news.flatMap((n) => ('pose' in n ? [n] : []));
  const present = (): string[] =>
    news
      .flatMap((n) => ('present' in n ? [n.present] : []))
      .at(-1)!
      .map((p) => p.name);

  test('joints that come one by one are one pose, and who is there is told before it', () => {
    take('a', 'Ada', { head: [0, 1, 2] });
    take('a', 'Ada', { hand: [3, 4, 5] });
    pass(5);
    expect(news.slice(1)).toEqual([
      { present: [{ name: 'Ada', joints: ['head', 'hand'], bones: {} }] },
      { pose: 'Ada', time: 1, places: [0, 1, 2, 3, 4, 5] },
    ]);
    take('a', 'Ada', { hand: [6, 6, 6] });
    pass(5);
    expect(poses().at(-1)!.places).toEqual([0, 1, 2, 6, 6, 6]);
  });

  test('poses with times keep them, and one that is late does not take the newer back', () => {
    take('a', 'Ada', { head: [2, 0, 0] }, 7.2);
    take('a', 'Ada', { head: [1, 0, 0] }, 7.1);
    pass(5);
    take('a', 'Ada', { hand: [0, 0, 0] }, 7.3);
    pass(5);
    expect(poses().map(({ time, places }) => [time, places])).toEqual([
      [7.2, [2, 0, 0]],
      [7.1, [1, 0, 0]],
      [7.3, [2, 0, 0, 0, 0, 0]],
    ]);
  });

  test('of two senders of one name the first counts, until it is silent', () => {
    take('a', 'Ada', { head: [1, 0, 0] });
    pass(900);
    expect(() => take('b', 'Ada', { head: [9, 0, 0] })).toThrow('Ada is sent by a already');
    take('b', 'Bo', { head: [2, 0, 0] });
    pass(200);
    take('b', 'Ada', { head: [9, 0, 0] });
    pass(5);
    expect(poses().map(({ pose, places }) => [pose, places[0]])).toEqual([
      ['Ada', 1],
      ['Bo', 2],
      ['Ada', 9],
    ]);
    expect(() => take('a', 'Ada', { head: [1, 0, 0] })).toThrow('Ada is sent by b already');
  });

  test('who is silent for five seconds is gone', () => {
    take('a', 'Ada', { head: [1, 0, 0] });
    pass(2500);
    take('a', 'Bo', { head: [1, 0, 0] });
    pass(3500);
    expect(present()).toEqual(['Bo']);
  });

  test('there is an end to performers, to joints, and to messages a second', () => {
    for (let n = 0; n < 16; n++) take('a', `P${String(n)}`, { head: [0, 0, 0] });
    expect(() => take('a', 'one more', { head: [0, 0, 0] })).toThrow('more than 16 performers');
    const many = Object.fromEntries(
      Array.from({ length: 500 }, (_, i) => [
        `j${String(i)}`,
        [0, 0, 0] as [number, number, number],
      ]),
    );
    expect(() => take('a', 'P0', many)).toThrow('P0 has more than 500 joints');
    const bones = Object.fromEntries(Object.keys(many).map((name) => [name, 'head']));
    door.take('a', { performer: 'P1', joints: {}, bones });
    expect(() => {
      door.take('a', { performer: 'P1', joints: {}, bones: { more: 'head' } });
    }).toThrow('P1 has more than 500 bones');
    const admitted = Array.from({ length: 25_000 }, () => door.admits()).filter(Boolean);
    expect(admitted).toHaveLength(20_000);
    pass(1000);
    expect(lines[0]).toContain('5000 messages were not taken: more than 20000 messages a second');
    expect(door.admits()).toBe(true);
  });

  test('of ten thousand messages a second no more is passed on than can be shown', () => {
    for (let n = 0; n < 10_000; n++) {
      take('a', 'Ada', { head: [n, 0, 0] }, n / 10_000);
      if (n % 10 === 9) pass(1);
    }
    expect(poses().length).toBeLessThanOrEqual(1000);
    expect(poses().length).toBeGreaterThan(100);
    expect(poses().at(-1)!.places[0]).toBeGreaterThan(9900);
  });
});
