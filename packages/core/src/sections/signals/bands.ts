import { number } from '../../language/dials';
import { signal } from '../define';
import { hearingDials, levelAt, loudnessAt } from './level';
import { signalRange } from './range';

export const bands = signal({
  kind: 'bands',
  title: 'Bands',
  help: 'How loud a sound is in several bands at once, from low to high.',
  icon: 'M4 20V10M9 20V5M14 20v-8M19 20v-4M3 20h18',
  dials: {
    ...hearingDials,
    count: number('Bands', 3, [2, 8], 'How many, each as wide in pitch as the others.', {
      whole: true,
      group: 'Hearing',
    }),
    low: { ...hearingDials.low, default: 60, help: 'Where the lowest begins.' },
    high: { ...hearingDials.high, default: 8000, help: 'Where the highest ends.' },
    lowest: signalRange.low,
    highest: signalRange.high,
  },
  bench: { cuts: ['low', 'high'] },
  parts: ({ count }) => count,
  follow(dials, context) {
    const { count, low, high, measure, window, gain, rise, fall } = dials;
    const range = { rise, fall, low: dials.lowest, high: dials.highest };
    const heard = context.heard(dials.sound);
    const edge = (i: number): number => low * (high / low) ** (i / count);
    return Array.from({ length: count }, (_, i) => {
      const band = { low: edge(i), high: edge(i + 1), measure, window };
      return levelAt(range, context, loudnessAt(heard, band, gain));
    });
  },
});
