import { number } from '../../../language/dials';
import { body } from '../../define';
import { hardness, markDials } from './common';

export const puff = body({
  kind: 'puff',
  title: 'Puff',
  help: 'A soft cloud, no two alike; many make smoke or flame.',
  icon: 'M7 17a4 4 0 0 1 0-8a5 5 0 0 1 9.6-1A4.5 4.5 0 0 1 17 17z',
  shape: { draws: 'mark', pattern: 'puff', param: 'detail' },
  dials: {
    hardness,
    detail: number('Wisps', 2, [0.5, 8], 'How many wisps fit across.', { varies: 'never' }),
    ...markDials,
  },
});
