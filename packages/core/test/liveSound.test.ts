import '@vast-swarm/core/content';
import { HEARD_AHEAD, LiveSound, peaksOf, readStock, type Sound } from '@vast-swarm/core/stock';
import { makePart } from '@vast-swarm/core/piece';
import { Scene } from '@vast-swarm/core/plan';
import { wavBytes } from '@vast-swarm/core/formats';
import { piece, scene, sine, soundOf } from './support/tones';

/** What comes in live is heard as the recording of it is, to the last bit. */

const CHAIN: Parameters<typeof piece>[0] = [
  ['level', 'loud', { window: 0.03, rise: 0.05, fall: 0.3 }],
  ['bands', 'parts', { count: 4, fall: 0.2 }],
  ['pitch', 'tone', { low: 100, high: 3000 }],
  ['strike', 'hit', { signal: 'loud', threshold: 0.3, delay: 0.1, attack: 0.03, release: 0.2 }],
  ['follow', 'late', { signal: 'hit', delay: 0.05, rise: 0.1, fall: 0.4 }],
  ['tally', 'wheel', { signal: 'parts.2' }],
];
const NAMES = ['loud', 'parts.1', 'parts.4', 'tone', 'tone.2', 'hit', 'late', 'wheel'];

/** A tone that comes and goes and rises. */
const song = (t: number): number =>
  sine(200 + 150 * t, 0.8)(t) * (Math.sin(7 * t) > 0.2 ? 1 : 0.05);

/** The piece with live input in place of its sound, which begins at a frame. */
function livePiece(rate: number, start: number) {
  const made = piece(CHAIN, {}, rate);
  made.sounds = [{ ...makePart('sounds', 'live', []), id: 'heard' }];
  Object.assign(made.sounds[0]!.dials, { take: 'file', start });
  return made;
}

test.each([
  [24, 44_100],
  [25, 48_000],
  [30, 48_000],
  [59.94, 44_100],
  [60, 16_000],
])('at %d frames a second, %d samples a second', (rate, samples) => {
  const start = 7;
  const made = livePiece(rate, start);
  const whole = soundOf(3, song, samples).channels[0]!;
  const live = new LiveSound(samples, start / rate);
  const driven = new Scene(made, new Map(), new Map([['heard', live]]));
  const seen: number[][] = [];
  let state = 3;
  const read = (scene: Scene, time: number): number[] => NAMES.map((n) => scene.signal(n, time));
  for (let frame = 0; frame < 2.5 * rate; frame++) {
    const time = (frame + 1) / rate;
    // In parts of any length, never less than what the frame may read.
    const least = Math.ceil((time + HEARD_AHEAD - live.start) * samples);
    while (live.length < least) {
      state = (state * 48271) % 2147483647;
      live.append(whole.slice(live.length, live.length + 1 + (state % 700)));
    }
    // Some are asked for in the middle of a frame too.
    read(driven, time - 0.5 / rate);
    seen.push(read(driven, time));
  }
  expect(new Set(seen.map(String)).size).toBeGreaterThan(40);
  const take: Sound = { type: 'sound', rate: samples, channels: [whole] };
  const replay = scene(made, take);
  // From the last to the first: a table is the same in whatever order it is asked for.
  for (let frame = seen.length - 1; frame >= 0; frame--) {
    expect(read(replay, (frame + 1) / rate)).toEqual(seen[frame]);
  }
});

test('the waveform of what is recorded grows with it', () => {
  const whole = soundOf(4, song, 44_100);
  const live = new LiveSound(44_100, 0);
  const { length } = whole.channels[0]!;
  for (let part = 1; part <= 7; part++) {
    const end = Math.floor((length * part) / 7);
    live.append(whole.channels[0]!.slice(live.length, end));
    const sofar: Sound = { ...whole, channels: [whole.channels[0]!.slice(0, end)] };
    expect(peaksOf(live, 0, 4, 90)).toEqual(peaksOf(sofar, 0, 4, 90));
  }
});

test('two inputs at once: a change of the one is not missed for the other', () => {
  const made = piece([
    ['level', 'a', { fall: 0.5 }],
    ['level', 'b', { fall: 0.5 }],
  ]);
  made.sounds = ['one', 'two'].map((id) => ({ ...makePart('sounds', 'live', []), id }));
  made.signals.forEach((s, i) => (s.dials.sound = made.sounds[i]!.id));
  const lives = made.sounds.map(() => new LiveSound(8000, 0));
  const driven = new Scene(made, new Map(), new Map(lives.map((l, i) => [made.sounds[i]!.id, l])));
  const tone = soundOf(2, sine(440), 8000).channels[0]!;
  for (let k = 0; k < 20; k++) lives[0]!.append(tone.slice(k * 800, (k + 1) * 800));
  expect([driven.signal('a', 1), driven.signal('b', 1)]).toEqual([expect.closeTo(0.707, 2), 0]);
  lives[1]!.append(tone);
  expect(driven.signal('b', 1)).toBeCloseTo(0.707, 2);
});

test('without a take it is silent, and a take is read again from its file as it was', async () => {
  const silent = livePiece(30, 0);
  silent.sounds[0]!.dials.take = '';
  expect(scene(silent).signal('loud', 1)).toBe(0);
  const { channels } = soundOf(0.7, song, 44_100);
  for (const sound of [{ channels }, { channels: [...channels, channels[0]!.map((v) => -v)] }]) {
    const made: Sound = { type: 'sound', rate: 44_100, ...sound };
    expect(await readStock('take.wav', wavBytes(made))).toEqual(made);
  }
});
