import type { RenderJob } from '@vast-swarm/core/formats';
import { serverWatch } from '../src/renders/serverWatch';
import { store } from '../src/store/store';
import { smallOrder } from '../../../tests/support/orders';

/** What is seen of the renders at the server, and what is told of them. */

const job = (state: RenderJob['state'], more: Partial<RenderJob> = {}): RenderJob => ({
  id: 'a',
  state,
  priority: 0,
  added: 1,
  ended: null,
  done: 3,
  perSecond: 1,
  secondsLeft: 1,
  frame: 2,
  problem: null,
  folder: '/renders/a',
  order: smallOrder(),
  ...more,
});

let answers: (() => Response)[];
const asked = jest.fn(() =>
  Promise.resolve((answers.length > 1 ? answers.shift()! : answers[0]!)()),
);
const list =
  (...renders: RenderJob[]) =>
  (): Response =>
    ({ ok: true, json: () => Promise.resolve({ renders }) }) as Response;
const refusal = (problem: unknown) => (): Response =>
  ({ ok: false, json: () => Promise.resolve(problem) }) as Response;

beforeEach(() => {
  jest.useFakeTimers();
  asked.mockClear();
  const page = { document: { hidden: false }, location: { pathname: '/' }, window: {} };
  Object.assign(globalThis, { ...page, fetch: asked });
});
afterEach(() => jest.useRealTimers());

const notices = (): string[] => store.getState().notices.map((n) => n.message);

test('one that is not through is looked at until it is, which is told once', async () => {
  answers = [list(job('waiting')), list(job('running')), list(job('done'))];
  await serverWatch.look();
  await jest.advanceTimersByTimeAsync(1000);
  expect(serverWatch.seen().jobs![0]!.state).toBe('running');
  expect(notices()).toEqual([]);
  await jest.advanceTimersByTimeAsync(1000);
  expect(notices()).toEqual(['Small: the render is done. It is in the list of renders.']);
  const times = asked.mock.calls.length;
  await jest.advanceTimersByTimeAsync(10_000);
  expect(asked.mock.calls.length).toBe(times);
  expect(notices().length).toBe(1);
});

test('one that fails says why', async () => {
  answers = [
    list(job('running', { id: 'b' })),
    list(job('failed', { id: 'b', problem: 'no room' })),
  ];
  await serverWatch.look();
  await jest.advanceTimersByTimeAsync(1000);
  expect(notices()).toContain('Small: the render failed: no room');
});

test('while somebody sees them they are looked at, whatever the server answers', async () => {
  answers = [list(job('done')), refusal({ problem: 'There are no renders.' }), list(job('done'))];
  const seen: (string | null)[] = [];
  const leave = serverWatch.subscribe(() => seen.push(serverWatch.seen().trouble));
  await jest.advanceTimersByTimeAsync(2500);
  expect(seen).toEqual([null, 'There are no renders.', null]);
  leave();
  await jest.advanceTimersByTimeAsync(1000);
  const times = asked.mock.calls.length;
  await jest.advanceTimersByTimeAsync(10_000);
  expect(asked.mock.calls.length).toBe(times);
});

test.each([
  ['something else answers', refusal('x'), 'There are no renders at this server.'],
  ['a page answers', (() => ({ ok: true, json: () => Promise.reject(new Error('<')) })) as never],
  [
    'nothing answers',
    () => {
      throw new TypeError('failed');
    },
    'The server does not answer.',
  ],
])('%s: it is said in words', async (_, answer, words = 'There are no renders at this server.') => {
  answers = [answer];
  asked.mockImplementationOnce(() => Promise.resolve().then(answer));
  await serverWatch.look();
  expect(serverWatch.seen().trouble).toBe(words);
});
