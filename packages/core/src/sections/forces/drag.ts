import { number } from '../../language/dials';
import { force } from '../define';

export const drag = force({
  kind: 'drag',
  title: 'Drag',
  help: 'Slows particles; shape it over life to rush, hang and fade.',
  icon: 'M4 12h9M4 7h6M4 17h6M17 4v16M20 4v16',
  dials: {
    amount: number('Amount', 1, [0, 1000], 'Speed falls to 37 % in one over this many seconds.', {
      unit: '1/s',
      varies: 'life',
    }),
  },
  build(dial) {
    return { drag: dial.number('amount') };
  },
});
