import { number } from '../../language/dials';
import { force } from '../define';

export const jostle = force({
  kind: 'jostle',
  title: 'Jostle',
  help: 'A push in a new random direction every frame, for each particle its own.',
  icon: 'M5 5l3 3M19 5l-4 2M12 12l2-4M6 18l2-4M18 19l-3-2M12 16v4',
  dials: {
    strength: number('Strength', 4, [0, 1000], 'Acceleration.', { unit: 'm/s²', varies: 'life' }),
  },
  build(dial) {
    return { push: dial.randomDirection('push', true).scale(dial.number('strength')) };
  },
});
