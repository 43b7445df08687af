import { choice, number } from '../../language/dials';
import { nearestTwo, wanderingPoints } from '../../stock/clip/noise';
import { movingPicture } from '../define';
import { changeDials, madeMap, mapDials } from './madeMap';

export const cells = movingPicture({
  kind: 'cells',
  title: 'Cell map',
  help: 'Cells about scattered points that wander: bright in their middles, or at their edges.',
  icon: 'M4 4l7 5l-3 8l-5 3M11 9l8-4M8 17l8 3l4-8l-9-3',
  dials: {
    scale: number('Cells', 6, [0.5, 100], 'How many there are from top to bottom.', {
      varies: 'never',
      drag: 'log',
    }),
    shows: choice(
      'Shows',
      'edges',
      { edges: 'Their edges', middles: 'Their middles' },
      'What is bright.',
    ),
    ...changeDials,
    ...mapDials,
  },
  moving(dials, context) {
    const { scale, shows } = dials;
    return madeMap('cells', dials, context, (at) => {
      const distances = nearestTwo(wanderingPoints(at, context.seed));
      return (x, y) => {
        const [near, second] = distances(x * scale, y * scale);
        return shows === 'edges' ? 1 - 4 * (second - near) : 1 - near / 0.8;
      };
    });
  },
});
