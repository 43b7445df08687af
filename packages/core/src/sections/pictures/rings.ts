import { number } from '../../language/dials';
import { movingPicture } from '../define';
import { changeDials, madeMap, mapDials } from './madeMap';

const never = { varies: 'never' as const };

export const rings = movingPicture({
  kind: 'rings',
  title: 'Ring map',
  help: 'Rings about the middle, that run outward.',
  icon: 'M12 3a9 9 0 1 0 0 18a9 9 0 0 0 0-18M12 8a4 4 0 1 0 0 8a4 4 0 0 0 0-8',
  dials: {
    rings: number('Rings', 5, [0.1, 200], 'How many there are in a height.', {
      ...never,
      drag: 'log',
    }),
    thick: number('Thickness', 0.5, [0.01, 1], 'Part of the way from ring to ring.', never),
    ...changeDials,
    ...mapDials,
  },
  moving(dials, context) {
    const { rings: count, thick, shape } = dials;
    return madeMap('rings', dials, context, (at) => (x, y) => {
      const [dx, dy] = [x - shape / 2, y - 0.5];
      const place = Math.sqrt(dx * dx + dy * dy) * count - at;
      // Brightest in the middle of a ring.
      return 1 - Math.abs(2 * (place - Math.floor(place)) - 1) / thick;
    });
  },
});
