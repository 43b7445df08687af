import { number } from '../../../language/dials';
import { body } from '../../define';
import { hardness, markDials } from './common';

export const streakDials = {
  hardness,
  stretch: number('Stretch', 0.05, [0, 10], 'It is as much longer as it flies in this time.', {
    unit: 's',
    varies: 'life',
    drag: 'log',
  }),
  ...markDials,
  facing: { ...markDials.facing, default: 'velocity' as const },
};

export const streak = body({
  kind: 'streak',
  title: 'Streak',
  help: 'A dot drawn out along its way by its speed.',
  icon: 'M4 18L18 6M8 20l4-4M14 8l6-5',
  shape: { draws: 'mark', pattern: 'disc' },
  dials: streakDials,
});
