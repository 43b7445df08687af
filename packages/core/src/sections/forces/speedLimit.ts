import { number } from '../../language/dials';
import { force } from '../define';

export const speedLimit = force({
  kind: 'speedLimit',
  title: 'Speed limit',
  help: 'Nothing goes faster than this.',
  icon: 'M4 16a8 8 0 1 1 16 0M12 16l4-5M4 20h16',
  dials: {
    most: number('Most', 2, [0, 1000], 'Speed.', { unit: 'm/s', varies: 'life' }),
  },
  build(dial) {
    return { limit: dial.number('most') };
  },
});
