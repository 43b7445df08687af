import { number } from '../../language/dials';
import { collider } from '../define';
import { ballLines, drawnSize } from '../outlines';
import { round } from './round';

export const sphere = collider({
  kind: 'sphere',
  title: 'Sphere',
  help: 'A ball, or a bowl that holds particles in.',
  icon: 'M12 4a8 8 0 1 0 0 16a8 8 0 0 0 0-16zM4.5 12c3 2.6 12 2.6 15 0',
  dials: {
    radius: number('Radius', 1, [0, 1000], 'From the middle to the surface.', { unit: 'm' }),
  },
  outline: ({ radius }) => ballLines(drawnSize(radius)),
  build(dial) {
    const radius = dial.number('radius');
    return { distance: (p) => round(p, radius) };
  },
});
