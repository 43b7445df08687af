import { takeAt } from '../../feeds/take';
import { number } from '../../language/dials';
import { signal } from '../define';

export const byHand = signal({
  kind: 'byHand',
  title: 'By hand',
  help: 'Moved by hand while the piece plays, and recorded as it is moved.',
  icon: 'M5 20v-6M5 10V4M12 20v-3M12 13V4M19 20v-9M19 7V4M3 12h4M10 15h4M17 9h4',
  dials: {
    take: {
      type: 'take' as const,
      title: 'Take',
      help: 'What was recorded; move it while the piece plays to record more.',
      group: 'Dials',
      default: { rate: 30, first: 0, values: [] },
    },
    rest: number('At rest', 0, [0, 1], 'Before anything was recorded.', { varies: 'never' }),
  },
  follow:
    ({ take, rest }) =>
    (time) =>
      takeAt(take, time, rest),
});
