import { hashNumber, randomKey, unitNumber } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { ranged, signalRange } from './range';
import { frameAt } from '../../formula/frameAt';
import { signal } from '../define';

export const steps = signal({
  kind: 'steps',
  title: 'Steps',
  help: 'A new random value every so many frames.',
  icon: 'M2 17h5V9h5v5h5V5h5',
  dials: {
    every: number('Every', 15, [1, 100_000], 'Frames from one value to the next.', {
      unit: 'frames',
      whole: true,
    }),
    ...signalRange,
  },
  follow(dials, { rate, seed, id }) {
    const key = randomKey(`signal.${id}`, seed);
    const to = ranged(dials);
    return (time) => {
      const step = Math.floor(frameAt(time, rate) / dials.every);
      return to(unitNumber(hashNumber(step) ^ key));
    };
  },
});
