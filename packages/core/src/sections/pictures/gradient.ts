import { number } from '../../language/dials';
import { movingPicture } from '../define';
import { changeDials, madeMap, mapDials } from './madeMap';

const never = { varies: 'never' as const };

export const gradient = movingPicture({
  kind: 'gradient',
  title: 'Ramp map',
  help: 'From dark to bright along a direction, once or in waves that travel.',
  icon: 'M4 5h16v14H4zM9 5v14M14 5v14M18 5v14',
  dials: {
    across: number('Across', 1, [-1, 1], 'How much of its way goes to the right.', never),
    down: number('Down', 0, [-1, 1], 'How much of its way goes down.', never),
    waves: number('Waves', 1, [0.1, 100], 'How often it goes from dark to bright.', {
      ...never,
      drag: 'log',
    }),
    ...changeDials,
    change: { ...changeDials.change, default: 0 },
    ...mapDials,
  },
  moving(dials, context) {
    const { across, down, waves, shape } = dials;
    const span = Math.abs(across) * shape + Math.abs(down) || 1;
    const [left, top] = [across < 0 ? shape : 0, down < 0 ? 1 : 0];
    return madeMap('gradient', dials, context, (at) => (x, y) => {
      const place = (((x - left) * across + (y - top) * down) / span) * waves - at;
      return waves <= 1 && at === 0 ? place / waves : place - Math.floor(place);
    });
  },
});
