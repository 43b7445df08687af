import { expose, type Remote } from 'comlink';
import { EngineClient, type EngineEvents } from '../src/engine/client';
import type { EngineEvent, FrameReport } from '../src/engine/messages';
import { smallPiece } from '../../../tests/support/pieces';

/** The interface's end of the engine, with workers that are made up: what a fresh one is told after the last has died. */

/** A worker that is the other end of a channel, and keeps what it is asked. */
class MadeWorker {
  static all: MadeWorker[] = [];
  readonly asked: [name: string, ...args: unknown[]][] = [];
  onerror: ((event: { message: string; preventDefault: () => void }) => void) | null = null;
  terminated = false;
  private readonly near: MessagePort;
  private tell: Remote<(event: EngineEvent) => void> | null = null;

  constructor() {
    MadeWorker.all.push(this);
    const { port1, port2 } = new MessageChannel();
    this.near = port1;
    port1.start();
    const far = new Proxy(
      {},
      {
        get:
          (_, name: string) =>
          (...args: unknown[]) => {
            if (name === 'start') this.tell = args[2] as typeof this.tell;
            else this.asked.push([name, ...args]);
          },
      },
    );
    expose(far, port2);
  }

  postMessage(...args: Parameters<MessagePort['postMessage']>): void {
    this.near.postMessage(...args);
  }
  addEventListener(...args: Parameters<MessagePort['addEventListener']>): void {
    this.near.addEventListener(...args);
  }
  removeEventListener(...args: Parameters<MessagePort['removeEventListener']>): void {
    this.near.removeEventListener(...args);
  }
  terminate(): void {
    this.terminated = true;
    this.near.close();
  }

  fails(message: string): void {
    this.onerror?.({ message, preventDefault: () => undefined });
  }

  /** Tells of a frame, as the engine does. */
  async shows(report: Partial<FrameReport>): Promise<void> {
    await this.started();
    await this.tell!({ type: 'frame', report: { settling: 0, ...report } as FrameReport });
  }

  async started(): Promise<void> {
    while (!this.tell) await turn();
  }

  /** The names of what it was asked, once so much has come. */
  async told(count: number): Promise<string[]> {
    while (this.asked.length < count) await turn();
    await turn();
    return this.asked.map(([name]) => name);
  }
}

const turn = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 1));

const holder = { replaceChildren: () => undefined } as unknown as HTMLElement;
const newest = (): MadeWorker => MadeWorker.all.at(-1)!;

let client: EngineClient;
let deaths: number;
let troubles: string[];

beforeEach(() => {
  MadeWorker.all = [];
  Object.assign(globalThis, {
    Worker: MadeWorker,
    crossOriginIsolated: true,
    document: {
      createElement: () => ({
        style: {},
        setAttribute: () => undefined,
        // What can be sent away, as a canvas can.
        transferControlToOffscreen: () => new MessageChannel().port1,
      }),
    },
  });
  [deaths, troubles] = [0, []];
  const events: Partial<EngineEvents> = {
    died: () => {
      deaths += 1;
    },
    trouble: (message) => troubles.push(message),
  };
  client = new EngineClient('cpu', events);
  client.attach(holder);
});
afterEach(() => {
  client.close();
});

test('a fresh engine is told of the piece, where it stood, and that it played', async () => {
  const piece = smallPiece();
  client.setPreview(360, 400);
  client.setPiece(piece);
  client.play(true);
  await newest().shows({ frame: 41 });
  const first = newest();
  first.fails('out of memory');
  expect(deaths).toBe(1);
  expect(troubles).toEqual(['The engine stopped (out of memory). It was started again.']);
  client.attach(holder);
  expect(first.terminated).toBe(true);
  expect(newest()).not.toBe(first);
  expect(await newest().told(4)).toEqual(['preview', 'setPiece', 'seek', 'play']);
  expect(newest().asked).toEqual([
    ['preview', 360, 400],
    ['setPiece', JSON.parse(JSON.stringify(piece))],
    ['seek', 41],
    ['play', true],
  ]);
});

test('what the last one says after its death counts no more', async () => {
  client.setPiece(smallPiece());
  const first = newest();
  await first.shows({ frame: 12 });
  client.attach(holder);
  await newest().shows({ frame: 30 });
  // Nobody hears it, and nothing comes back.
  void first.shows({ frame: 7 });
  await turn();
  first.fails('late');
  expect(client.report!.frame).toBe(30);
  expect(deaths).toBe(0);
});

test('one that keeps dying is not started for ever; the next change of the piece tries again', async () => {
  client.setPiece(smallPiece());
  for (let k = 1; k <= 3; k++) {
    newest().fails('it loops');
    expect(deaths).toBe(k);
    client.attach(holder);
  }
  newest().fails('it loops');
  expect(deaths).toBe(3);
  expect(troubles.at(-1)).toBe(
    'The engine stopped (it loops). It keeps stopping; undo the last change.',
  );
  const changed = smallPiece((p) => (p.name = 'Undone'));
  client.setPiece(changed);
  expect(deaths).toBe(4);
  client.attach(holder);
  await newest().told(2);
  expect(newest().asked.find(([name]) => name === 'setPiece')).toEqual([
    'setPiece',
    expect.objectContaining({ name: 'Undone' }),
  ]);
});

test('one that has shown what was wanted in between may die any number of times', async () => {
  client.setPiece(smallPiece());
  for (let k = 1; k <= 12; k++) {
    await newest().shows({ frame: k });
    newest().fails('from outside');
    expect(deaths).toBe(k);
    client.attach(holder);
  }
});

test('what is being built is given up as soon as there is another piece, or it is stopped', async () => {
  await newest().started();
  client.setPiece(smallPiece());
  client.setPiece(smallPiece());
  client.stopBuilding();
  const asked = await newest().told(4);
  expect(asked.slice(1)).toEqual(['setPiece', 'setPiece', 'stopBuilding']);
});
