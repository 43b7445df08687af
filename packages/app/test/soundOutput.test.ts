import type { Heard, Sound } from '@vast-swarm/core';
import { SoundOutput } from '../src/sound/output';

/** What is let out of a piece's sounds, on a clock that is set by hand. */

interface Started {
  when: number;
  offset: number;
  length: number | undefined;
  loop: boolean;
  stopped: boolean;
  level: FakeParam;
}

class FakeParam {
  value = 1;
  readonly ramps: [kind: 'set' | 'ramp', value: number, time: number][] = [];
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
  createBuffer(channels: number, length: number, sampleRate: number): object {
    return { channels, length, sampleRate, copyToChannel: () => undefined };
  }
  createGain(): object {
    return { gain: new FakeParam(), connect: () => undefined };
  }
  createBufferSource(): object {
    const node = {
      loop: false,
      level: null as FakeParam | null,
      entry: null as Started | null,
      connect(to: { gain: FakeParam }) {
        node.level = to.gain;
        return to;
      },
      start(when: number, offset: number, length?: number) {
        node.entry = { when, offset, length, loop: node.loop, stopped: false, level: node.level! };
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

const sound: Sound = { type: 'sound', rate: 100, channels: [new Int16Array(1000)] };
const heard = (change: Partial<Heard> = {}): Heard => ({
  ...{ sound, start: 2, from: 1, to: 9, gain: 0.5, fadeIn: 0, fadeOut: 0, repeats: false },
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
  expect(started).toMatchObject([{ when: 10, offset: 4, length: 5 }]);
  expect(started[0]!.level.value).toBe(0.5);
  for (let i = 1; i < 60; i++) {
    clock = 10 + i / 30;
    // The picture comes a little too late or too soon.
    output.follow([heard()], 5 + i / 30 + (i % 2 ? 0.03 : -0.05));
  }
  expect(started).toHaveLength(1);
  // Somebody goes elsewhere.
  output.follow([heard()], 3);
  expect(started[0]!.stopped).toBe(true);
  expect(started[1]).toMatchObject({ when: clock, offset: 2, length: 7 });
  output.stop();
  expect(started[1]!.stopped).toBe(true);
});

test('what comes later waits, what is over is not begun, what repeats goes round', () => {
  const output = new SoundOutput();
  output.follow([heard()], 0.5);
  expect(started).toMatchObject([{ when: 11.5, offset: 1, length: 8 }]);
  output.follow([heard()], 30);
  expect(started).toHaveLength(1);
  output.follow([heard({ repeats: true })], 13);
  expect(started[1]).toMatchObject({ when: 10, offset: 4, length: undefined, loop: true });
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
  expect(started).toMatchObject([{ when: 10, offset: 4, length: 0.09 }]);
  const ramps = started[0]!.level.ramps;
  expect(ramps.map(([, value]) => value)).toEqual([0, 0.5, 0.5, 0]);
  const times = ramps.map(([, , time]) => time);
  expect(times).toEqual([...times].sort((a, b) => a - b));
  output.grain([heard()], 1);
  expect(started).toHaveLength(1);
});
