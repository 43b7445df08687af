import { takeAt } from '../../feeds/take';
import { choice } from '../../language/dials';
import { signal } from '../define';

/** Before anything was recorded: in the middle, and not held. */
const REST = { across: 0.5, up: 0.5, held: 0 };

export const pointer = signal({
  kind: 'pointer',
  title: 'Pointer',
  help: 'Where the pointer is on the picture while S is held, recorded as it moves.',
  icon: 'M5 3l14 8l-6 1.5L10 19zM14 14l5 5',
  dials: {
    tells: choice(
      'Tells',
      'across',
      { across: 'How far across', up: 'How far up', held: 'Whether S is held' },
      '0 at the left or below, 1 at the right or above; held it is 1.',
    ),
    take: {
      type: 'take' as const,
      title: 'Take',
      help: 'What was recorded; hold S over the picture while the piece plays to record more.',
      group: 'Dials',
      default: { rate: 30, first: 0, values: [] },
    },
  },
  points: ({ tells }) => tells,
  follow:
    ({ tells, take }) =>
    (time) =>
      takeAt(take, time, REST[tells]),
});
