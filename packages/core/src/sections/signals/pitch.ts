import { number, partDial } from '../../language/dials';
import { placeIn } from '../../stock/sound/heard';
import { PITCHES, pitchesOf } from '../../stock/sound/pitch';
import { signal } from '../define';
import { never } from './range';

const group = 'Hearing';
/** Less of what is heard round the strongest frequency, and there is no pitch. */
const SURE = 0.3;

export const pitch = signal({
  kind: 'pitch',
  title: 'Pitch',
  help: 'The strongest frequency of a sound, and how sure that is.',
  icon: 'M9 18V5l10-2v12M9 18a3 3 0 1 1-6 0a3 3 0 0 1 6 0zM19 15a3 3 0 1 1-6 0a3 3 0 0 1 6 0z',
  dials: {
    sound: partDial('Hears', 'sounds', 'The sound of the piece that it listens to.'),
    low: number('From', 60, [20, 20_000], 'The frequency that gives its lowest value.', {
      unit: 'Hz',
      drag: 'log',
      group,
      ...never,
    }),
    high: number('Up to', 2000, [20, 20_000], 'The frequency that gives its highest value.', {
      unit: 'Hz',
      drag: 'log',
      group,
      ...never,
    }),
    silent: number('Silent below', -50, [-90, 0], 'Softer than this, it keeps what it had.', {
      unit: 'dB',
      group,
      ...never,
    }),
    lowest: number('Lowest', 0, [-1e6, 1e6], 'Its lowest value.', never),
    highest: number(
      'Highest',
      1,
      [-1e6, 1e6],
      'Its highest value; octaves are equal steps.',
      never,
    ),
  },
  /** The pitch, and how sure it is. */
  parts: () => 2,
  bench: { cuts: ['low', 'high'] },
  follow({ sound, low, high, silent, lowest, highest }, context) {
    const heard = context.heard(sound);
    if (!heard) return [() => lowest, () => 0];
    const least = 10 ** (silent / 20);
    const octaves = Math.log2(high / low);
    /** Which of the pitches counts at a time, the last that was loud and sure; -1 where there was none yet. */
    const entry = (time: number): number => {
      const place = placeIn(heard, time);
      if (!place) return -1;
      const { count, loudness, sureness } = pitchesOf(heard.sound, low, high);
      let k = Math.min(count, Math.floor(place.at * PITCHES + 1e-6)) - 1;
      while (k >= 0 && (loudness[k]! * place.gain < least || sureness[k]! < SURE)) k -= 1;
      return k;
    };
    const value = (time: number): number => {
      const k = entry(time);
      if (k < 0) return lowest;
      const part = Math.log2(pitchesOf(heard.sound, low, high).frequency[k]! / low) / octaves;
      return lowest + (highest - lowest) * Math.min(1, Math.max(0, part));
    };
    const sure = (time: number): number => {
      const k = entry(time);
      return k < 0 ? 0 : pitchesOf(heard.sound, low, high).sureness[k]!;
    };
    return [value, sure];
  },
});
