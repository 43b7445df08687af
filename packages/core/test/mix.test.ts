import { isDeepStrictEqual } from 'node:util';
import { mixOf, startedAt, type Heard, type Sound } from '@vast-swarm/core/stock';
import { allHeard } from '../src/plan/signals';
import { aroundSeam } from '../src/stock/sound/heard';
import { piece, sine, soundOf } from './support/tones';

/** What a video is given to hear, against the tones it is made of. */

const heard = (sound: Sound, change: Partial<Heard> = {}): Heard => ({
  sound,
  start: 0,
  from: 0,
  to: sound.channels[0]!.length / sound.rate,
  gain: 1,
  fadeIn: 0,
  fadeOut: 0,
  repeats: false,
  ...change,
});

test.each([8000, 22_050, 44_100, 48_000, 96_000])('a tone of %d Hz samples at 48,000', (rate) => {
  const tone = sine(997, 0.5);
  const sound = soundOf(1, tone, rate);
  const [left, right] = mixOf([heard(sound)], 0.3, 9600, 48_000);
  const off = left.map((v, i) => Math.abs(v - tone(0.3 + i / 48_000)));
  expect(Math.max(...off)).toBeLessThan(2e-4);
  expect(isDeepStrictEqual(right, left)).toBe(true);
});

test('what 48,000 samples cannot hold is left out rather than folded down', () => {
  const sound = soundOf(0.5, sine(30_000, 0.9), 96_000);
  const [left] = mixOf([heard(sound)], 0.1, 4800, 48_000);
  expect(Math.max(...left.map(Math.abs))).toBeLessThan(2e-3);
});

test('both sides, gain, fades and what begins later are heard; together they end at full', () => {
  const { channels } = soundOf(1, () => 0.5, 48_000);
  const stereo: Sound = {
    type: 'sound',
    rate: 48_000,
    channels: [channels[0]!, channels[0]!.map((v) => -v)],
  };
  const [left, right] = mixOf(
    [heard(stereo, { start: 0.5, gain: 0.5, fadeIn: 0.2 })],
    0,
    96_000,
    48_000,
  );
  expect([left[0], left[23_000]]).toEqual([0, 0]);
  expect(left[24_000 + 4800]).toBeCloseTo(0.125, 4);
  expect(left[40_000]).toBeCloseTo(0.25, 4);
  expect(right[40_000]).toBeCloseTo(-0.25, 4);
  expect(left[80_000]).toBe(0);
  const loud = [1, 2, 3].map(() => heard(stereo));
  const both = mixOf(loud, 0.2, 10, 48_000);
  expect([both[0][5], both[1][5]]).toEqual([1, -1]);
});

test('in a loop a sound that goes on at the end goes over into the beginning', () => {
  const [period, rate] = [2, 48_000];
  const long = soundOf(3, sine(441, 0.5), rate);
  const mix = (one: Heard, from: number, count: number) =>
    mixOf(aroundSeam(one, period), from, count, rate)[0];
  // The sample behind the last one is the first one.
  const whole = mixOf([heard(long)], period, 3, rate)[0];
  expect(mix(heard(long), 0, 1)[0]).toBeCloseTo(whole[0]!, 6);
  // Behind the seam it is as it was, and what fits into the loop is as it was throughout.
  expect(mix(heard(long), 0.5, 100)).toEqual(mixOf([heard(long)], 0.5, 100, rate)[0]);
  const short = heard(soundOf(1.5, sine(441, 0.5), rate));
  expect(mix(short, 0, 480)).toEqual(mixOf([short], 0, 480, rate)[0]);
  // One that repeats in the time of the loop is left as it is.
  const turning = heard(soundOf(1, sine(441, 0.5), rate), { repeats: true });
  const plain = mixOf([turning], 0, 4800, rate)[0];
  mix(turning, 0, 4800).forEach((v, i) => {
    expect(v).toBeCloseTo(plain[i]!, 5);
  });
});

test('a sound that is started again is cut off where it begins anew', () => {
  const sound = soundOf(2, sine(440, 0.5));
  const started = startedAt({ ...heard(sound), start: 0.5 }, [1, 1.25], true);
  const [left] = mixOf(started, 0, 3 * 48_000, 48_000);
  const alone = (start: number): Float32Array =>
    mixOf([{ ...heard(sound), start }], 0, 3 * 48_000, 48_000)[0];
  const spans = [
    [0, 0.5, null],
    [0.5, 1, 0.5],
    [1, 1.25, 1],
    [1.25, 3, 1.25],
  ] as const;
  for (const [from, to, start] of spans) {
    const own = start === null ? new Float32Array(3 * 48_000) : alone(start);
    const [a, b] = [from * 48_000, to * 48_000];
    expect([...left.slice(a, b)]).toEqual([...own.slice(a, b)]);
  }
});

test('a sound that is off is heard where a cue starts it, and nowhere else', () => {
  const made = piece([]);
  made.sounds[0]!.on = false;
  const sound = soundOf(1, sine(440));
  const all = (seconds: number[]): number[] =>
    allHeard(
      made,
      () => sound,
      seconds.map((at) => ({ sound: 'heard', at })),
    ).map((h) => h.start);
  expect(all([])).toEqual([]);
  expect(all([2, 4])).toEqual([2, 4]);
  made.sounds[0]!.on = true;
  expect(all([2])).toEqual([0, 2]);
});
