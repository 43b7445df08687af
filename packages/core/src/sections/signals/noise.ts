import { randomKey } from '@vast-swarm/kernel';
import { noiseAt } from '../../formula/numbers';
import { number } from '../../language/dials';
import { never, ranged, signalRange } from './range';
import { signal } from '../define';

export const noise = signal({
  kind: 'noise',
  title: 'Noise',
  help: 'Wanders smoothly and never repeats.',
  icon: 'M2 14c2-6 3 2 5-2s2-8 4-3s2 9 4 5s3-7 4-3s2 3 3 1',
  dials: {
    speed: number('Speed', 0.5, [0, 1000], 'New values a second.', {
      unit: '/s',
      drag: 'log',
      ...never,
    }),
    detail: number('Detail', 1, [1, 6], 'Layers, each twice as fast and half as strong.', {
      whole: true,
    }),
    ...signalRange,
  },
  follow(dials, { seed, id }) {
    const key = randomKey(`signal.${id}`, seed);
    const speed = dials.speed;
    const layers = Array.from({ length: dials.detail }, (_, i) => 2 ** i);
    const total = layers.reduce((sum, k) => sum + 1 / k, 0);
    const to = ranged(dials);
    return (time) => {
      const layer = (k: number): number => noiseAt(time * speed * k, key ^ (k * 7919)) / k;
      const value = layers.reduce((s, k) => s + layer(k), 0) / total;
      return to(0.5 + 0.5 * value);
    };
  },
});
