import { number } from '../../../language/dials';
import { camera } from '../../define';
import { cameraDials } from './lens';

export const orthographic = camera({
  kind: 'orthographic',
  title: 'Orthographic',
  help: 'Everything as large as it is, however far away.',
  icon: 'M4 7h10v10H4zM14 7h6M14 12h6M14 17h6',
  perspective: false,
  focal: (now) => 1 / now('tall'),
  dials: {
    tall: number('View height', 4, [0.001, 10000], 'From the bottom to the top of the frame.', {
      unit: 'm',
      drag: 'log',
    }),
    ...cameraDials,
  },
});
