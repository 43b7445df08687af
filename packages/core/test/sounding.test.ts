import { responseAt, bandFilter } from '../src/stock/sound/biquad';
import { compilePiece } from '@vast-swarm/core/plan';
import type { Sound } from '@vast-swarm/core/stock';
import { piece, scene, sine, soundOf } from './support/tones';

/** Signals that hear a sound, against what the sound was made from. */

const SHARP = { rise: 0, fall: 0, window: 0.1 };

/** The value of a signal called `s` at a time. */
function heardAt(kind: string, sound: Sound, dials: object, time: number, name = 's'): number {
  return scene(piece([[kind, 's', { ...SHARP, ...dials }]]), sound).signal(name, time);
}

test.each([8000, 44_100, 48_000, 192_000])('the root mean square of a sine at %d Hz', (rate) => {
  const sound = soundOf(1, sine(440, 0.8), rate);
  for (const time of [0.3, 0.47, 0.8]) {
    expect(heardAt('level', sound, {}, time)).toBeCloseTo(0.8 * Math.SQRT1_2, 4);
    expect(heardAt('level', sound, { measure: 'peak' }, time)).toBeCloseTo(0.8, 3);
  }
  expect(heardAt('level', sound, { gain: -20 }, 0.5)).toBeCloseTo(0.08 * Math.SQRT1_2, 5);
});

/** Butterworth of the fourth order: |H|² = 1 / (1 + (f / cut)⁸), and the other way round. */
const analog = (f: number, low: number, high: number): number =>
  1 / Math.sqrt((1 + (f / high) ** 8) * (1 + (low / f) ** 8));

const FREQUENCIES = [50, 90, 150, 250, 400, 600, 900, 1300, 1800, 2400];

test.each(FREQUENCIES)('a band lets %d Hz through as its filter says', (frequency) => {
  const [low, high, rate] = [200, 1000, 48_000];
  const sound = soundOf(2, sine(frequency), rate);
  const level = heardAt('level', sound, { low, high, window: 1, gain: 20 }, 1.9, 's') / 10;
  const clipped = heardAt('level', sound, { low, high, window: 1, gain: 0 }, 1.9);
  const size = (clipped > 0.09 ? clipped : level) / Math.SQRT1_2;
  const decibels = (a: number): number => 20 * Math.log10(a);
  expect(Math.abs(decibels(size) - decibels(analog(frequency, low, high)))).toBeLessThan(0.5);
  const filters = bandFilter(low, high, rate);
  expect(decibels(size)).toBeCloseTo(decibels(responseAt(filters, frequency, rate)), 1);
});

test('bands divide what is heard, each as wide in pitch as the next', () => {
  // Edges at 100, 400, 1600 and 6400 Hz.
  const dials = { low: 100, high: 6400, count: 3 };
  for (const [i, frequency] of [200, 800, 3200].entries()) {
    const sound = soundOf(1, sine(frequency));
    const found = [1, 2, 3].map((n) => heardAt('bands', sound, dials, 0.8, `s.${String(n)}`));
    expect(found[i]).toBeGreaterThan(0.68);
    expect(found.filter((_, k) => k !== i).every((v) => v < 0.06)).toBe(true);
  }
});

test.each([55, 110, 261.63, 440, 1234.5, 1900])('the pitch of %d Hz', (frequency) => {
  const sound = soundOf(1, (t) => sine(frequency, 0.5)(t) + sine(frequency * 2, 0.1)(t));
  const dials = { low: 50, high: 2000 };
  const octaves = heardAt('pitch', sound, dials, 0.7) * Math.log2(2000 / 50);
  expect(Math.abs(1200 * (octaves - Math.log2(frequency / 50)))).toBeLessThan(20);
  expect(heardAt('pitch', sound, dials, 0.7, 's.2')).toBeGreaterThan(0.6);
});

test('what is silent keeps its pitch, and noise has none that is sure', () => {
  const fades = soundOf(2, (t) => (t < 1 ? sine(440, 0.5)(t) : 0));
  const dials = { low: 50, high: 2000 };
  expect(heardAt('pitch', fades, dials, 1.9)).toBeCloseTo(heardAt('pitch', fades, dials, 0.9), 2);
  let state = 1;
  const noise = soundOf(1, () => ((state = (state * 48271) % 2147483647) / 2147483647 - 0.5) * 0.9);
  expect(heardAt('pitch', noise, dials, 0.8, 's.2')).toBeLessThan(0.5);
});

test('a sound is heard from where it begins, trimmed, faded and repeated', () => {
  const sound = soundOf(2, (t) => sine(1000, t < 1 ? 0.4 : 0.8)(t));
  const at = (played: object, time: number): number => {
    const made = piece([['level', 's', { ...SHARP, window: 0.025 }]], played as never);
    return scene(made, sound).signal('s', time) / Math.SQRT1_2;
  };
  expect(at({ start: 30 }, 0.9)).toBe(0);
  expect(at({ start: 30 }, 1.5)).toBeCloseTo(0.4, 3);
  expect(at({ start: 30, gain: -6.0206 }, 2.5)).toBeCloseTo(0.4, 3);
  expect(at({ from: 1 }, 0.5)).toBeCloseTo(0.8, 3);
  expect(at({ from: 1 }, 1.2)).toBe(0);
  expect(at({ to: 0.5, again: 'repeats' }, 7.3)).toBeCloseTo(0.4, 3);
  expect(at({ fadeIn: 1 }, 0.5)).toBeCloseTo(0.2, 3);
  expect(at({ fadeOut: 0.8 }, 1.8)).toBeCloseTo(0.2, 3);
});

test.each([24, 30, 60])(
  '40 clicks in noise at 20 dB give 40 strikes at %d frames a second',
  (rate) => {
    let state = 7;
    const random = (): number => (state = (state * 48271) % 2147483647) / 2147483647 - 0.5;
    // A click is 5 ms of a tone; the noise has a tenth of its size.
    const times = Array.from({ length: 40 }, (_, i) => 0.4 + i * 0.31 + 0.05 * random());
    const clicks = soundOf(13.5, (t) => {
      const on = times.some((at) => t >= at && t < at + 0.005);
      return (on ? sine(2000, 0.8)(t) : 0) + 0.08 * 2 * random();
    });
    const made = piece(
      [
        ['level', 'loud', { ...SHARP, window: 0.01, measure: 'rms' }],
        ['strike', 'hit', { signal: 'loud', threshold: 0.25, attack: 0, decay: 0.1 }],
      ],
      {},
      rate,
    );
    const { signal } = { signal: (time: number) => scenes.signal('hit', time) };
    const scenes = scene(made, clicks);
    const fired: number[] = [];
    for (let frame = 0; frame < 13.5 * rate; frame++) {
      const [before, now] = [signal(frame / rate), signal((frame + 1) / rate)];
      if (now > before) fired.push((frame + 1) / rate);
    }
    expect(fired).toHaveLength(40);
    fired.forEach((at, i) => {
      expect(at - times[i]!).toBeGreaterThan(-1e-9);
      expect(at - times[i]!).toBeLessThan(1 / rate + 0.006);
    });
  },
);

test('a signal without its sound rests at its lowest, and that is told', () => {
  const made = piece([
    ['level', 'a', { lowest: 0.2, highest: 3 }],
    ['bands', 'b', { lowest: 0.3 }],
    ['pitch', 'c', { lowest: 0.4 }],
  ]);
  const empty = scene(made);
  expect(['a', 'b.2', 'c'].map((id) => empty.signal(id, 3))).toEqual([0.2, 0.3, 0.4]);
  const told = compilePiece(made).notices.map((n) => n.message);
  expect(told).toEqual([expect.stringContaining('File is not in the stock')]);
});

test('a table is the same in whatever order its times are asked for', () => {
  const sound = soundOf(3, (t) => sine(300, 0.5 + 0.5 * Math.sin(5 * t))(t));
  const made = piece([
    ['level', 'a', { rise: 0.2, fall: 0.7 }],
    ['strike', 'b', { signal: 'a', threshold: 0.3, sustain: 0.4, release: 0.3 }],
    ['tally', 'c', { signal: 'b' }],
    ['follow', 'd', { signal: 'c', delay: 0.1, rise: 0.3 }],
  ]);
  const times = Array.from({ length: 90 }, (_, i) => ((i * 37) % 90) / 30);
  const [one, other] = [scene(made, sound), scene(made, sound)];
  const first = new Map(times.map((t) => [t, one.signal('d', t)]));
  for (const t of [...times].sort((a, b) => a - b)) expect(other.signal('d', t)).toBe(first.get(t));
});
