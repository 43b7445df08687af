import { number } from '../../language/dials';
import { noisePlane } from '../../stock/clip/noise';
import { movingPicture } from '../define';
import { changeDials, madeMap, mapDials } from './madeMap';

const never = { varies: 'never' as const };

export const noise = movingPicture({
  kind: 'noise',
  title: 'Noise map',
  help: 'Clouds of light and dark that drift into each other, or change in steps.',
  icon: 'M3 15c3-5 5 3 8-2s5 2 10-4M3 20c4-3 6 1 9-2s5 1 9-2',
  dials: {
    scale: number('Features', 4, [0.1, 200], 'How many there are from top to bottom.', {
      ...never,
      drag: 'log',
    }),
    octaves: number('Octaves', 3, [1, 8], 'Layers, each twice as fine.', { whole: true }),
    persistence: number(
      'Persistence',
      0.5,
      [0, 1],
      'How strong each layer is by the one before.',
      never,
    ),
    contrast: number('Contrast', 2, [0, 20], 'About the middle; high makes islands.', never),
    ...changeDials,
    ...mapDials,
  },
  moving(dials, context) {
    const { scale, octaves, persistence, contrast } = dials;
    return madeMap('noise', dials, context, (at) => {
      let [weight, fine, all] = [1, scale, 0];
      const layers = Array.from({ length: octaves }, (_, k) => {
        // Layers apart, so that their lattices do not show together.
        const layer = { noise: noisePlane(at + 5 * k, context.seed), fine, weight, off: 17 * k };
        all += weight;
        weight *= persistence;
        fine *= 2;
        return layer;
      });
      return (x, y) => {
        let sum = 0;
        for (const layer of layers) {
          sum += layer.weight * layer.noise(x * layer.fine + layer.off, y * layer.fine - layer.off);
        }
        return (sum / all - 0.5) * contrast + 0.5;
      };
    });
  },
});
