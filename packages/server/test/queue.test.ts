import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pieceText } from '@vast-swarm/core/piece';
import type { RenderJob, RenderOrder } from '@vast-swarm/core/formats';
import { strToU8, zipSync } from 'fflate';
import { smallOrder } from '../../../tests/support/orders';
import { smallPiece } from '../../../tests/support/pieces';
import { RenderQueue } from '../src/queue/queue';
import type { Outcome, Runner, Step } from '../src/queue/runner';

/** The list of renders, with a runner that does what the test says. */

const piece = pieceText(smallPiece());
const order = smallOrder();

function zipOf(
  change: Partial<RenderOrder> = {},
  more: Record<string, Uint8Array> = {},
): Uint8Array {
  const text = JSON.stringify({ ...order, ...change });
  return zipSync({ 'order.json': strToU8(text), 'piece.swarm.json': strToU8(piece), ...more });
}

/** A runner by hand: what is begun waits to be told. */
class ByHand {
  readonly begun: {
    job: RenderJob;
    step: (step: Partial<Step>) => void;
    end: (o: Outcome) => void;
  }[] = [];
  stopped: string[] = [];

  readonly runner: Runner = (job, step) => {
    let end: (outcome: Outcome) => void = () => undefined;
    const ended = new Promise<Outcome>((resolve) => (end = resolve));
    this.begun.push({
      job,
      step: (part) => {
        step({ frame: 0, done: 0, total: 10, perSecond: 1, secondsLeft: 1, ...part });
      },
      end,
    });
    return {
      ended,
      stop: () => {
        this.stopped.push(job.order.name);
        end({ made: false, problem: 'stopped' });
      },
    };
  };

  get names(): string[] {
    return this.begun.map(({ job }) => job.order.name);
  }
}

let folder: string;
let hand: ByHand;
let queue: RenderQueue;
const told: string[] = [];

async function opened(atOnce = 1): Promise<RenderQueue> {
  hand = new ByHand();
  queue = await RenderQueue.open(folder, hand.runner, (text) => told.push(text), atOnce);
  return queue;
}

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'vast-swarm-'));
});
afterEach(async () => {
  await queue.close();
  rmSync(folder, { recursive: true });
});

/** Lets what has been told be done. */
const settled = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));
const states = (): string[] => queue.list().map((j) => `${j.order.name} ${j.state}`);

test('one is made after the other, those that are wanted sooner first', async () => {
  await opened();
  for (const name of ['a', 'b', 'c']) await queue.add(zipOf({ name }));
  const third = queue.list().find((j) => j.order.name === 'c')!;
  queue.act(third.id, 'sooner');
  expect(states()).toEqual(['a running', 'c waiting', 'b waiting']);
  for (const name of ['a', 'c', 'b']) {
    expect(hand.begun.at(-1)!.job.order.name).toBe(name);
    hand.begun.at(-1)!.end({ made: true });
    await settled();
  }
  expect(hand.names).toEqual(['a', 'c', 'b']);
  expect(new Set(states())).toEqual(new Set(['a done', 'b done', 'c done']));
});

test('several at once, where so many are wanted', async () => {
  await opened(2);
  for (const name of ['a', 'b', 'c']) await queue.add(zipOf({ name }));
  expect(hand.names).toEqual(['a', 'b']);
  hand.begun[0]!.end({ made: true });
  await settled();
  expect(hand.names).toEqual(['a', 'b', 'c']);
});

test('frames that were there before count as done', async () => {
  await opened();
  const { id } = await queue.add(zipOf());
  hand.begun[0]!.step({ frame: 7, done: 1, total: 3, perSecond: 2, secondsLeft: 1 });
  expect(queue.job(id)).toMatchObject({ frame: 7, done: 8, perSecond: 2, secondsLeft: 1 });
});

test('a render is paused, and goes on; the next one has its turn meanwhile', async () => {
  await opened();
  const { id } = await queue.add(zipOf({ name: 'a' }));
  await queue.add(zipOf({ name: 'b' }));
  queue.act(id, 'pause');
  await settled();
  expect(hand.stopped).toEqual(['a']);
  expect(states()).toEqual(['b running', 'a paused']);
  queue.act(id, 'go');
  expect(states()).toEqual(['b running', 'a waiting']);
  hand.begun[1]!.end({ made: true });
  await settled();
  expect(hand.names).toEqual(['a', 'b', 'a']);
});

test('a render that fails says why and can be tried again; one that is cancelled too', async () => {
  await opened();
  const { id } = await queue.add(zipOf());
  hand.begun[0]!.step({ frame: 4, done: 5 });
  hand.begun[0]!.end({ made: false, problem: 'there is no room left on the disk' });
  await settled();
  expect(queue.job(id)).toMatchObject({
    state: 'failed',
    frame: 4,
    problem: 'there is no room left on the disk',
  });
  expect(() => queue.act(id, 'pause')).toThrow(/is failed: it cannot be 'pause'/);
  queue.act(id, 'retry');
  expect(queue.job(id)).toMatchObject({ state: 'running', problem: null });
  queue.act(id, 'cancel');
  await settled();
  expect(queue.job(id)!.state).toBe('cancelled');
  queue.act(id, 'retry');
  expect(hand.begun.length).toBe(3);
});

test('a render whose process cannot even be begun has failed, and the next one has its turn', async () => {
  hand = new ByHand();
  let first = true;
  const runner: Runner = (job, step) => {
    if (!first) return hand.runner(job, step);
    first = false;
    return { ended: Promise.reject(new Error('spawn EAGAIN')), stop: () => undefined };
  };
  queue = await RenderQueue.open(folder, runner, (text) => told.push(text), 1);
  const { id } = await queue.add(zipOf({ name: 'a' }));
  await queue.add(zipOf({ name: 'b' }));
  await settled();
  expect(queue.job(id)).toMatchObject({ state: 'failed', problem: 'spawn EAGAIN' });
  expect(hand.names).toEqual(['b']);
});

test('what stands in the folder goes on when the queue is opened again', async () => {
  await opened();
  for (const name of ['a', 'b', 'c']) await queue.add(zipOf({ name }));
  const byName = (name: string): RenderJob => queue.list().find((j) => j.order.name === name)!;
  queue.act(byName('c').id, 'pause');
  hand.begun[0]!.end({ made: true });
  await settled();
  await queue.close();
  expect(hand.stopped).toEqual(['b']);
  await opened();
  expect(states()).toEqual(['b running', 'c paused', 'a done']);
  expect(hand.names).toEqual(['b']);
});

test('what is taken away is gone, with all that was made of it', async () => {
  await opened();
  const job = await queue.add(zipOf());
  expect(readFileSync(join(job.folder, 'piece.swarm.json'), 'utf8')).toBe(piece);
  await queue.remove(job.id);
  expect(hand.stopped).toEqual(['Small']);
  expect(queue.list()).toEqual([]);
  expect(() => readFileSync(join(job.folder, 'job.json'))).toThrow(/ENOENT/);
  await expect(queue.remove(job.id)).rejects.toThrow(/no render of that name/);
});

test('what a piece uses comes with it, and nothing is written anywhere else', async () => {
  await opened();
  const more = {
    'stock/shell.svg': strToU8('<svg/>'),
    '../../evil.txt': strToU8('x'),
    'stock/../../evil.txt': strToU8('x'),
  };
  const job = await queue.add(zipOf({ name: '../../Evil name' }, more));
  expect(job.folder.startsWith(join(folder, 'evil-name-'))).toBe(true);
  expect(readFileSync(join(job.folder, 'stock/shell.svg'), 'utf8')).toBe('<svg/>');
  expect(() => readFileSync(join(folder, 'evil.txt'))).toThrow(/ENOENT/);
  expect(() => readFileSync(join(folder, '../evil.txt'))).toThrow(/ENOENT/);
});

test.each([
  ['no zip', strToU8('no'), /zip/i],
  ['no order', zipSync({ 'piece.swarm.json': strToU8(piece) }), /no order\.json/],
  ['no piece', zipSync({ 'order.json': strToU8(JSON.stringify(order)) }), /has no piece/],
  ['a size that is none', zipOf({ width: 3 }), /order\.json: width/],
  ['frames backwards', zipOf({ first: 8, last: 3 }), /last: comes before first/],
  ['more frames than the piece has', zipOf({ last: 90 }), /last: the piece has frames 0 to 89/],
  ['layers on PNG', zipOf({ layers: ['depth'] }), /layers: only OpenEXR/],
  ['layers in a video', zipOf({ format: 'mov', layers: ['depth'] }), /layers: a video has none/],
  ['a codec on PNG', zipOf({ codec: 'vp9' }), /codec: is for videos/],
  ['VP9 in MP4', zipOf({ format: 'mp4', codec: 'vp9' }), /codec: a \.mp4 file has h264/],
  ['transparent H.264', zipOf({ format: 'mp4', alpha: true }), /alpha: h264 has no transp/],
  ['transparent AV1', zipOf({ format: 'webm', codec: 'av1', alpha: true }), /alpha: av1/],
  ['an odd video', zipOf({ format: 'mp4', height: 73 }), /height: of a video is even/],
  ['names that leave the folder', zipOf({ frames: '../%04d' }), /order\.json: frames/],
  ['a format that is none', zipOf({ format: 'gif' as 'png' }), /order\.json: format/],
  [
    'a piece that cannot be read',
    zipSync({
      'order.json': strToU8(JSON.stringify(order)),
      'p.json': strToU8('{"format": "vast-swarm piece"}'),
    }),
    /The piece cannot be read/,
  ],
])('an order with %s is refused, and nothing is left of it', async (_, bytes, why) => {
  await opened();
  await expect(queue.add(bytes)).rejects.toThrow(why);
  expect(queue.list()).toEqual([]);
});
