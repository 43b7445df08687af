import type { Heard, Sound } from '@vast-swarm/core/stock';
import { SoundOutput } from '../src/sound/output';

/** What is let out of a piece's sounds, on a clock that is set by hand. */

interface Started {
  when: number;
  /** The first sample of it, and how many there are. */
  first: number;
  count: number;
  stopped: boolean;
  level: FakeParam;
}

class FakeParam {
  value = 1;
  readonly ramps: [kind: 'set' | 'ramp', value: number, time: number][] = [];
  cancelScheduledValues(): void {
    this.ramps.length = 0;
  }
  setValueAtTime(value: number, time: number): void {
    this.ramps.push(['set', value, time]);
  }
  linearRampToValueAtTime(value: number, time: number): void {
    this.ramps.push(['ramp', value, time]);
  }
}

const started: Started[] = [];
let clock = 0;

class FakeContext {
  readonly state = 'running';
  readonly destination = {};
  get currentTime(): number {
    return clock;
  }
  createBuffer(_: number, length: number): object {
    const buffer = {
      length,
      first: 0,
      copyToChannel: (samples: Float32Array) => (buffer.first = samples[0]! * 32768),
    };
    return buffer;
  }
  createGain(): object {
    return { gain: new FakeParam(), connect: () => undefined };
  }
  createBufferSource(): object {
    const node = {
      buffer: null as { length: number; first: number } | null,
      level: null as FakeParam | null,
      entry: null as Started | null,
      connect(to: { gain: FakeParam }) {
        node.level = to.gain;
      },
      start(when: number) {
        const { length: count, first } = node.buffer!;
        node.entry = { when, first, count, stopped: false, level: node.level! };
        started.push(node.entry);
      },
      stop() {
        node.entry!.stopped = true;
      },
    };
    return node;
  }
  close(): Promise<void> {
    return Promise.resolve();
  }
}

/** Ten seconds whose samples tell which they are. */
const samples = Int16Array.from({ length: 1000 }, (_, i) => i);
const sound: Sound = { type: 'sound', rate: 100, channels: [samples] };
const heard = (change: Partial<Heard> = {}): Heard => ({
  sound,
  start: 2,
  from: 1,
  to: 9,
  gain: 0.5,
  fadeIn: 0,
  fadeOut: 0,
  repeats: false,
  ...change,
});

beforeEach(() => {
  started.length = 0;
  clock = 10;
  (globalThis as { AudioContext?: unknown }).AudioContext = FakeContext;
});

test('a sound is begun where the picture is, and left alone while both go on', () => {
  const output = new SoundOutput();
  output.follow([heard()], 5);
  expect(started).toMatchObject([{ when: 10, first: 400, count: 400 }]);
  expect(started[0]!.level.value).toBe(0.5);
  for (let i = 1; i < 30; i++) {
    clock = 10 + i / 30;
    // The picture comes a little too late or too soon.
    output.follow([heard()], 5 + i / 30 + (i % 2 ? 0.03 : -0.05));
  }
  expect(started).toHaveLength(1);
  // Somebody goes elsewhere.
  output.follow([heard()], 3);
  expect(started[0]!.stopped).toBe(true);
  expect(started[1]).toMatchObject({ when: clock, first: 200 });
  output.stop();
  expect(started[1]!.stopped).toBe(true);
});

test.each([false, true])('part follows part without a gap; one that repeats: %s', (repeats) => {
  const output = new SoundOutput();
  for (let i = 0; i <= 12 * 30; i++) {
    clock = 10 + i / 30;
    output.follow([heard({ repeats })], 4 + i / 30);
  }
  const parts = started.map(({ when, first, count }) => [when, first, count]);
  const whole = [
    [10, 300, 400],
    [14, 700, 200],
  ];
  const round = [
    [16, 100, 400],
    [20, 500, 400],
  ];
  expect(parts.slice(0, 4)).toEqual(repeats ? [...whole, ...round] : whole);
  expect(started.every((s) => !s.stopped)).toBe(true);
});

test('what comes later waits, and what is over is not begun', () => {
  const output = new SoundOutput();
  output.follow([heard()], 0.5);
  expect(started).toHaveLength(0);
  clock = 10.1;
  output.follow([heard()], 0.6);
  expect(started).toMatchObject([{ when: 11.5, first: 100 }]);
  output.follow([heard()], 30);
  expect(started).toHaveLength(1);
});

test('fades are where they are, also where it begins in the middle of one', () => {
  const output = new SoundOutput();
  output.follow([heard({ fadeIn: 2, fadeOut: 4 })], 3);
  expect(started[0]!.level.ramps).toEqual([
    ['set', 0.25, 10],
    ['ramp', 0.5, 11],
    ['set', 0.5, 13],
    ['ramp', 0, 17],
  ]);
  output.follow([heard({ fadeOut: 4 })], 9);
  expect(started[1]!.level.ramps).toEqual([
    ['set', 0.125, 10],
    ['ramp', 0, 11],
  ]);
});

test('a place that somebody goes to is heard for a moment, and silence is not', () => {
  const output = new SoundOutput();
  output.grain([heard(), heard({ start: 40 })], 5);
  expect(started).toMatchObject([{ when: 10, first: 400, count: 9 }]);
  const ramps = started[0]!.level.ramps;
  expect(ramps.map(([, value]) => value)).toEqual([0, 0.5, 0.5, 0]);
  const times = ramps.map(([, , time]) => time);
  expect(times).toEqual([...times].sort((a, b) => a - b));
  output.grain([heard()], 1);
  expect(started).toHaveLength(1);
});
