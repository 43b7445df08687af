import { launch } from '../../define';
import { speed } from './speed';

export const allRound = launch({
  kind: 'allRound',
  title: 'All round',
  help: 'Any direction at random.',
  icon: 'M12 12V3M12 12l8-4M12 12l5 7M12 12l-5 7M12 12L4 8',
  dials: { speed: speed() },
  build(dial) {
    return dial.randomDirection('all').scale(dial.number('speed'));
  },
});
