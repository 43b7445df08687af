import { number } from '../../../language/dials';
import { body } from '../../define';
import { hardness, markDials } from './common';

export const spark = body({
  kind: 'spark',
  title: 'Spark',
  help: 'A star of four rays.',
  icon: 'M12 3c1 6 3 8 9 9c-6 1-8 3-9 9c-1-6-3-8-9-9c6-1 8-3 9-9z',
  shape: { draws: 'mark', pattern: 'spark', param: 'bend' },
  dials: {
    hardness,
    bend: number('Bend', 3, [0, 20], 'How far its sides bend inward; 0 is a diamond.', {
      varies: 'never',
    }),
    ...markDials,
  },
});
