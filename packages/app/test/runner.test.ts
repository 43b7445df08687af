import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { offerOf, type OutsideAct } from '@vast-swarm/core/formats';
import type { ControlValue } from '@vast-swarm/core/feeds';
import { OutsideInput } from '../src/control/outsideInput';
import { Runner } from '../src/control/runner';

/** A server that can be gone. */
class FakeSocket {
  static readonly OPEN = 1;
  static all: FakeSocket[] = [];
  readyState = 0;
  readonly sent: unknown[] = [];
  onopen: (() => void) | null = null;
  onclose: (() => void) | null = null;
  onmessage: ((event: { data: string }) => void) | null = null;

  constructor(readonly url: URL) {
    FakeSocket.all.push(this);
  }

  send(text: string): void {
    this.sent.push(JSON.parse(text));
  }

  opens(): void {
    this.readyState = FakeSocket.OPEN;
    this.onopen?.();
  }

  tells(told: unknown): void {
    this.onmessage?.({ data: JSON.stringify(told) });
  }

  close(): void {
    this.readyState = 3;
    this.onclose?.();
  }
}

beforeEach(() => {
  FakeSocket.all = [];
  const location = { href: 'http://127.0.0.1:5180/piece/a?token=x', search: '?token=x' };
  Object.assign(globalThis, { WebSocket: FakeSocket, location });
  jest.useFakeTimers();
});
afterEach(() => {
  jest.useRealTimers();
});

const { piece } = DEMO_SHOW.pieces.find((p) => p.id === 'ember-barge')!;
const offer = offerOf(piece);
const last = (): FakeSocket => FakeSocket.all.at(-1)!;

test('it says what there is, then what changes, and does what it is asked', () => {
  const acts: OutsideAct[] = [];
  let values: Record<string, ControlValue> = { spread: 0.1, wind: 2 };
  const runner = new Runner(
    () => values,
    (act) => acts.push(act),
    () => undefined,
  );
  runner.setOffer(offer);
  runner.open();
  expect([runner.state, last().url.href]).toEqual([
    'opening',
    'ws://127.0.0.1:5180/control/run?token=x',
  ]);
  last().opens();
  expect(runner.state).toBe('open');
  expect(last().sent).toEqual([{ offer }]);
  jest.advanceTimersByTime(60);
  values = { spread: 0.2, wind: 2 };
  jest.advanceTimersByTime(200);
  expect(last().sent.slice(1)).toEqual([
    { values: { spread: 0.1, wind: 2 } },
    { values: { spread: 0.2 } },
  ]);
  // The same once more is not said again; another is.
  runner.setOffer(structuredClone(offer));
  expect(last().sent).toHaveLength(3);
  runner.setOffer({ ...offer, cues: [] });
  expect(last().sent.at(-1)).toEqual({ offer: { ...offer, cues: [] } });
  last().tells({ acts: [{ cue: 'gust' }], moved: [] });
  expect(acts).toEqual([{ cue: 'gust' }]);
  runner.close();
  expect(runner.state).toBe('off');
});

test('a server that is gone is looked for until it is there, and told all again', () => {
  const runner = new Runner(
    () => ({ spread: 1 }),
    () => undefined,
    () => undefined,
  );
  runner.setOffer(offer);
  runner.open();
  last().opens();
  jest.advanceTimersByTime(100);
  last().close();
  expect(runner.state).toBe('lost');
  jest.advanceTimersByTime(1100);
  expect(FakeSocket.all).toHaveLength(2);
  last().close();
  jest.advanceTimersByTime(1100);
  expect([FakeSocket.all.length, runner.state]).toEqual([3, 'lost']);
  last().opens();
  jest.advanceTimersByTime(100);
  expect(last().sent).toEqual([{ offer }, { values: { spread: 1 } }]);
  // Closed by hand it is not looked for any more.
  runner.close();
  jest.advanceTimersByTime(5000);
  expect([FakeSocket.all.length, runner.state]).toEqual([3, 'off']);
});

test('what is moved next is learnt, and moves what has learnt it from then on', () => {
  const acts: OutsideAct[] = [];
  const open = structuredClone(piece);
  const outside = new OutsideInput(
    () => open,
    () => ({}),
    (act) => acts.push(act),
  );
  const learnt: string[] = [];
  outside.learn('controls.3.dials.learnt', (source) => learnt.push(source));
  // Whoever learns listens.
  last().opens();
  expect(outside.learning).toBe('controls.3.dials.learnt');
  const move = (source: string, value: number): void => {
    last().tells({ acts: [], moved: [{ source, value }] });
  };
  move('osc /a', 0.1);
  expect([learnt, outside.learning, acts]).toEqual([['osc /a'], null, []]);
  open.controls[3]!.dials.learnt = 'osc /a';
  open.cues[2]!.dials.learnt = 'osc /b';
  move('osc /a', 0.5);
  for (const value of [1, 1, 0, 1]) move('osc /b', value);
  expect(acts).toEqual([{ control: 'wind', to: 0 }, { cue: 'gust' }, { cue: 'gust' }]);
  outside.learn('cues.0.dials.learnt', () => undefined);
  outside.close();
  expect([outside.learning, outside.runner.state]).toEqual([null, 'off']);
});
