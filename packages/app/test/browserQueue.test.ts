import 'fake-indexeddb/auto';
import type { RenderState } from '../src/render/oneRender';
import { smallPiece } from '../../../tests/support/pieces';
import { library } from '../src/data/db';
import { browserQueue, stateOf, type BrowserRender } from '../src/renders/browserQueue';
import { startingSettings } from '../src/formats/settings';

/** The list of renders of a page, with renders that do what the test says. */

interface Begun {
  job: { id: string; piece: { name: string } };
  hear: (state: RenderState) => void;
  cancelled: boolean;
}
const mockBegun: Begun[] = [];
jest.mock('../src/render/oneRender', () => ({
  OneRender: class {
    private readonly own: Begun;
    constructor(job: Begun['job'], listener: { state: Begun['hear'] }) {
      this.own = { job, hear: listener.state, cancelled: false };
      mockBegun.push(this.own);
    }
    cancel(): void {
      this.own.cancelled = true;
      this.own.hear({ phase: 'cancelled', done: 2 });
    }
  },
}));

const page = { document: { hidden: false }, location: { pathname: '/renders' }, window: {} };
Object.assign(globalThis, page);

const add = (name: string): string => {
  const piece = smallPiece((p) => (p.name = name));
  return browserQueue.add('piece', piece, { ...startingSettings(piece), format: 'zip', last: 9 });
};
const known = (id: string): BrowserRender =>
  browserQueue.renders().find((r) => r.stored.id === id)!;
const states = (): string[] =>
  browserQueue.renders().map(({ stored }) => `${stored.piece.name} ${stored.state}`);
/** Lets what is kept be kept. */
const settled = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 20));
const latest = (): Begun => mockBegun.at(-1)!;

/** The end of the render that runs. */
const made = (): RenderState => {
  const { id, piece } = known(latest().job.id).stored;
  const job = { ...startingSettings(piece), id, piece };
  return { phase: 'done', blob: new Blob(['x']), note: null, frames: 10, seconds: 3, job };
};

afterEach(async () => {
  for (const { stored } of browserQueue.renders()) browserQueue.remove(stored.id);
  await settled();
  mockBegun.length = 0;
});

test('one is made after the other, sooner ones first, and is kept as it stands', async () => {
  const [a, b, c] = ['a', 'b', 'c'].map(add);
  await settled();
  browserQueue.act(c!, 'sooner');
  expect(states()).toEqual(['a running', 'c waiting', 'b waiting']);
  latest().hear({ phase: 'running', done: 4, there: 1, total: 10, warming: 0, seconds: 2 });
  expect(known(a!).stored.done).toBe(4);
  latest().hear(made());
  await settled();
  expect(latest().job.piece.name).toBe('c');
  expect((await library.renders.get(a!))!.state).toBe('done');
  expect((await library.renders.get(b!))!.state).toBe('waiting');
  expect(stateOf(known(a!))).toMatchObject({ phase: 'done', frames: 10, seconds: 3 });
  latest().hear({ phase: 'failed', message: 'no room', done: 3 });
  await settled();
  expect(stateOf(known(c!))).toEqual({ phase: 'failed', message: 'no room', done: 3 });
  expect(states()[0]).toBe('b running');
});

test('a pause keeps the frames, a cancel does not; both can be taken up again', async () => {
  const id = add('a');
  await settled();
  const frame = { render: id, size: 1, sum: 0, bytes: new Blob(['x']) };
  await library.renderFrames.bulkPut([0, 1].map((f) => ({ ...frame, frame: f })));
  browserQueue.act(id, 'pause');
  await settled();
  expect(stateOf(known(id))).toEqual({ phase: 'paused', done: 2 });
  expect(await library.renderFrames.count()).toBe(2);
  browserQueue.act(id, 'go');
  await settled();
  expect(mockBegun.length).toBe(2);
  browserQueue.act(id, 'cancel');
  await settled();
  expect(stateOf(known(id))).toEqual({ phase: 'cancelled', done: 2 });
  expect(await library.renderFrames.count()).toBe(0);
  browserQueue.act(id, 'pause');
  expect(known(id).stored.state).toBe('cancelled');
});

test('where what was made cannot be kept, its frames are, and it can be saved meanwhile', async () => {
  const id = add('a');
  await settled();
  const frame = { render: id, frame: 0, size: 1, sum: 0, bytes: new Blob(['x']) };
  await library.renderFrames.put(frame);
  const full = jest.spyOn(library.renders, 'put').mockRejectedValue(new Error('full'));
  latest().hear(made());
  await settled();
  full.mockRestore();
  expect(known(id).stored.blob).toBeDefined();
  expect(await library.renderFrames.count()).toBe(1);
});
