import { spectrumOf, tempoOf } from '@vast-swarm/core/stock';
import { sine, soundOf } from './support/tones';
import { swept } from '../../../tests/support/sweep';

/** Loops made here, whose tempo is known. */

let state = 11;
const random = (): number => (state = (state * 48271) % 2147483647) / 2147483647 - 0.5;

/** Drums: one on the beat, a lighter one between, and a hiss all along. */
function loop(tempo: number, first: number, light: number, seconds = 24) {
  const beat = 60 / tempo;
  const drum = (t: number, frequency: number): number =>
    t < 0 ? 0 : Math.exp(-t * 25) * Math.sin(2 * Math.PI * frequency * t);
  return soundOf(
    seconds,
    (t) => {
      const into = (t - first) % beat;
      const half = (t - first - beat / 2) % beat;
      const on = t < first ? 0 : 0.6 * drum(into, 90);
      const between = t < first + beat / 2 ? 0 : light * drum(half, 2200);
      return on + between + 0.02 * random();
    },
    16_000,
  );
}

const TEMPOS = [60, 66, 72.5, 84, 95, 100, 112, 120, 128, 133.3, 140, 150, 163, 174, 180];

test.each(
  swept(
    TEMPOS.map((tempo) => [tempo] as const),
    0.4,
  ),
)('the tempo of a loop of %d beats a minute', (tempo) => {
  for (const [first, light] of [
    [0.1, 0],
    [0.31, 0.15],
  ] as const) {
    const found = tempoOf(loop(tempo, first, light))!;
    expect(Math.abs(found.tempo / tempo - 1)).toBeLessThan(0.01);
    const beat = 60 / tempo;
    // A beat is where one is, or a whole number of beats from there.
    const off = (found.first - first) / beat;
    expect(Math.abs(off - Math.round(off)) * beat).toBeLessThan(0.03);
  }
});

test('a beat is where a note begins, however suddenly it ends', () => {
  const [beat, first] = [0.5, 0.2];
  const swell = (t: number): number => (t < 0 || t > 0.22 ? 0 : Math.min(1, t / 0.06));
  const notes = soundOf(
    24,
    (t) => 0.5 * swell((t - first + beat) % beat) * Math.sin(2 * Math.PI * 330 * t),
    16_000,
  );
  const found = tempoOf(notes)!;
  expect(Math.abs(found.tempo / 120 - 1)).toBeLessThan(0.01);
  const off = (found.first - first) / beat;
  expect((off - Math.floor(off)) * beat).toBeLessThan(0.08);
});

test('what never comes again has no tempo', () => {
  expect(tempoOf(soundOf(3, () => 0, 8000))).toBeNull();
  expect(tempoOf(soundOf(0.2, sine(300), 8000))).toBeNull();
  const once = soundOf(10, (t) => (t > 1 && t < 1.2 ? sine(500, 0.5)(t) : 0), 8000);
  expect(tempoOf(once)).toBeNull();
});

test.each([55, 220, 1000, 6000])(
  'the spectrum of %d Hz has its peak there, as loud as it is',
  (f) => {
    const sound = soundOf(1, sine(f, 0.5), 48_000);
    const [low, high, count] = [20, 20_000, 120];
    const found = spectrumOf(sound, 0.8, low, high, count);
    const top = found.indexOf(Math.max(...found));
    const at = Math.floor((count * Math.log(f / low)) / Math.log(high / low));
    expect(Math.abs(top - at)).toBeLessThanOrEqual(f < 100 ? 4 : 1);
    // Between two bins a Hann window loses up to 1.4 dB.
    expect(found[top]!).toBeGreaterThan(-6.02 - 1.5);
    expect(found[top]!).toBeLessThan(-5.9);
    const far = found.filter((_, k) => Math.abs(k - at) > 25);
    expect(Math.max(...far)).toBeLessThan(-60);
  },
);
