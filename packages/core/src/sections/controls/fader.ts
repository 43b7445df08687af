import { number, type LabelDial } from '../../language/dials';
import { control } from '../define';
import { keyDial } from './common';

const never = { varies: 'never' as const };

/** A number within its range, whichever of its ends is the lower. */
function within(value: number, low: number, high: number): number {
  return Math.min(Math.max(low, high), Math.max(Math.min(low, high), value));
}

export const fader = control({
  kind: 'fader',
  title: 'Fader',
  help: 'A number that moves dials between two ends.',
  icon: 'M4 12h16M9 7v10M9 12m-2 0a2 2 0 1 0 4 0a2 2 0 1 0-4 0',
  holds: 'number',
  dials: {
    rest: number('At rest', 0, [-1e6, 1e6], 'Until something sets it.', never),
    low: number('Lowest', 0, [-1e6, 1e6], 'Its lower end.', never),
    high: number('Highest', 1, [-1e6, 1e6], 'Its upper end.', never),
    unit: {
      type: 'label',
      title: 'Unit',
      help: 'What stands behind its number.',
      group: 'Dials',
      default: '',
    } satisfies LabelDial,
    key: keyDial('While this key is held, it is as is said below.'),
    held: number('While held', 1, [-1e6, 1e6], 'What it is while its key is held.', {
      ...never,
      group: 'Desk',
      when: { dial: 'key', not: '' },
    }),
  },
  rest: ({ rest, low, high }) => within(rest, low, high),
  range: ({ low, high }) => [Math.min(low, high), Math.max(low, high)],
  held: ({ key, held, low, high }) => (key ? { key, value: within(held, low, high) } : null),
});
