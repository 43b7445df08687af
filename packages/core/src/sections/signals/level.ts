import { choice, number, partDial } from '../../language/dials';
import { placeIn, type Heard } from '../../stock/sound/heard';
import { loudnessOf, stepAt, type Band } from '../../stock/sound/loudness';
import { signal } from '../define';
import type { SignalContext } from '../kinds';
import { smoothed } from './inSteps';
import { never, ranged, signalRange } from './range';

const group = 'Hearing';

/** Dials of all signals that listen for loudness. */
export const hearingDials = {
  sound: partDial('Hears', 'sounds', 'The sound of the piece that it listens to.'),
  low: number('From', 20, [20, 20_000], 'What is lower is left out, 24 dB an octave.', {
    unit: 'Hz',
    drag: 'log',
    group,
    ...never,
  }),
  high: number('Up to', 20_000, [20, 20_000], 'What is higher is left out, 24 dB an octave.', {
    unit: 'Hz',
    drag: 'log',
    group,
    ...never,
  }),
  measure: choice(
    'Measures',
    'rms',
    { rms: 'Mean loudness', peak: 'Peaks' },
    'The root of the mean square, of which a full sine has 0.71, or the largest.',
    { group },
  ),
  window: number('Looks back', 0.05, [0.005, 2], 'Over which it measures.', {
    unit: 's',
    drag: 'log',
    group,
    ...never,
  }),
  gain: number('Gain', 0, [-60, 60], 'Louder before it counts.', { unit: 'dB', group, ...never }),
  rise: number('Rise', 0, [0, 10], 'How slowly it goes up; after so long 63 % are done.', {
    unit: 's',
    group,
    ...never,
  }),
  fall: number('Fall', 0.1, [0, 10], 'How slowly it goes down.', { unit: 's', group, ...never }),
};

/** Loudness of what is heard in a band at a time of the piece, 0 to 1 and above. */
export function loudnessAt(
  heard: Heard | null,
  band: Band,
  gain: number,
): (time: number) => number {
  if (!heard) return () => 0;
  const factor = 10 ** (gain / 20);
  const loudness = loudnessOf(heard.sound, band);
  return (time) => {
    const place = placeIn(heard, time);
    if (!place) return 0;
    // Found when it is first wanted: a compile does not wait for it.
    return stepAt(loudness(), place.at) * place.gain * factor;
  };
}

/** The same within the signal's range, with its rise and fall. */
export function levelAt(
  { rise, fall, low, high }: { rise: number; fall: number; low: number; high: number },
  context: SignalContext,
  loudness: (time: number) => number,
): (time: number) => number {
  const to = ranged({ low, high });
  const smooth = smoothed(context, loudness, rise, fall);
  return (time) => to(Math.min(1, Math.max(0, smooth(time))));
}

export const level = signal({
  kind: 'level',
  title: 'Level',
  help: 'How loud a sound is, as a whole or between two frequencies.',
  icon: 'M3 20v-5M8 20V9M13 20V4M18 20v-9',
  dials: { ...hearingDials, lowest: signalRange.low, highest: signalRange.high },
  bench: { cuts: ['low', 'high'] },
  follow(dials, context) {
    const { low, high, measure, window, gain, rise, fall } = dials;
    const loudness = loudnessAt(context.heard(dials.sound), { low, high, measure, window }, gain);
    const range = { rise, fall, low: dials.lowest, high: dials.highest };
    return levelAt(range, context, loudness);
  },
});
