import { number, vector } from '../../language/dials';
import { force } from '../define';

export const gravity = force({
  kind: 'gravity',
  title: 'Gravity',
  help: 'A steady pull in one direction.',
  icon: 'M12 3v14M6 11l6 6l6-6M4 21h16',
  dials: {
    strength: number('Strength', 9.81, [-1000, 1000], 'Acceleration.', {
      unit: 'm/s²',
      varies: 'life',
    }),
    direction: vector('Direction', [0, -1, 0], 1, '', 'Where it pulls.', { grasp: 'way' }),
  },
  build(dial) {
    return { push: dial.vector('direction').unit().scale(dial.number('strength')) };
  },
});
