import { number, vector } from '../../language/dials';
import { force } from '../define';

export const wind = force({
  kind: 'wind',
  title: 'Wind',
  help: 'Moving air that takes particles along.',
  icon: 'M3 9h11a3 3 0 1 0-3-3M3 13h15a3 3 0 1 1-3 3M3 17h7',
  dials: {
    speed: number('Speed', 2, [-1000, 1000], 'Speed of the air.', { unit: 'm/s', varies: 'life' }),
    direction: vector('Direction', [1, 0, 0], 1, '', 'Where it blows.', { grasp: 'way' }),
    grip: number('Grip', 1, [0, 1000], 'How soon particles move with the air.', {
      unit: '1/s',
      varies: 'life',
    }),
  },
  build(dial) {
    const grip = dial.number('grip');
    const air = dial.vector('direction').unit().scale(dial.number('speed'));
    return { push: air.scale(grip), drag: grip };
  },
});
