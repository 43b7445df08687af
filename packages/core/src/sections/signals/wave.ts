import { choice, number } from '../../language/dials';
import { never, ranged, signalRange } from './range';
import { signal } from '../define';

type WaveShape = 'sine' | 'triangle' | 'square' | 'saw';

/** One period, t from 0 to 1, values 0 to 1; all start low. */
const SHAPES: Record<WaveShape, (t: number) => number> = {
  sine: (t) => 0.5 - 0.5 * Math.cos(2 * Math.PI * t),
  triangle: (t) => (t < 0.5 ? 2 * t : 2 - 2 * t),
  square: (t) => (t < 0.5 ? 0 : 1),
  saw: (t) => t,
};

export const wave = signal({
  kind: 'wave',
  title: 'Wave',
  help: 'Goes up and down for ever.',
  icon: 'M2 12c2.5-9 5-9 7.5 0s5 9 7.5 0s2.5-6 5-7',
  dials: {
    shape: choice(
      'Shape',
      'sine',
      { sine: 'Sine', triangle: 'Triangle', square: 'Square', saw: 'Saw' },
      'How it goes from low to high.',
    ),
    period: number('Period', 4, [0.001, 3600], 'From one crest to the next.', {
      unit: 's',
      drag: 'log',
      ...never,
    }),
    phase: number('Phase', 0, [-1, 1], 'How far into the period it starts.', never),
    rest: number('Rest', 0, [0, 0.99], 'The part of the time it rests at its ends.', never),
    ...signalRange,
  },
  follow(dials) {
    const { period, phase, rest } = dials;
    const shape = SHAPES[dials.shape];
    const to = ranged(dials);
    return (time) => {
      const turns = time / period + phase;
      const value = shape(turns - Math.floor(turns));
      // Stretched about its middle and cut off, so that it stays at its ends for a while.
      return to(Math.min(1, Math.max(0, 0.5 + (value - 0.5) / (1 - rest))));
    };
  },
});
