import { number } from '../../language/dials';
import { movingPicture } from '../define';
import { changeDials, madeMap, mapDials } from './madeMap';

export const checks = movingPicture({
  kind: 'checks',
  title: 'Check map',
  help: 'Squares in turn dark and bright, that wander to the right.',
  icon: 'M4 4h16v16H4zM4 12h16M12 4v16',
  dials: {
    count: number('Squares', 6, [1, 200], 'How many there are from top to bottom.', {
      whole: true,
    }),
    ...changeDials,
    ...mapDials,
  },
  moving(dials, context) {
    const { count } = dials;
    return madeMap('checks', dials, context, (at) => (x, y) => {
      const sum = Math.floor(x * count - at) + Math.floor(y * count);
      return sum - 2 * Math.floor(sum / 2);
    });
  },
});
