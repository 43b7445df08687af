import { number } from '../../../language/dials';
import { camera } from '../../define';
import { cameraDials } from './lens';

export const perspective = camera({
  kind: 'perspective',
  title: 'Perspective',
  help: 'Looks at a target from a distance, round which it orbits.',
  icon: 'M4 8h11v9H4zM15 11l5-3v9l-5-3',
  perspective: true,
  focal: (now) => 0.5 / Math.tan((now('view') * Math.PI) / 360),
  dials: {
    view: number('View angle', 40, [1, 150], 'From the bottom to the top of the frame.', {
      unit: '°',
    }),
    ...cameraDials,
  },
});
