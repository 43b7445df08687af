import type { OptionDial } from '../../language/dials';
import { control } from '../define';

export const option = control({
  kind: 'option',
  title: 'Choice',
  help: 'One of several ways, for dials that choose between the same.',
  icon: 'M5 7h.01M5 12h.01M5 17h.01M9 7h10M9 12h10M9 17h10',
  holds: 'option',
  dials: {
    rest: {
      type: 'option',
      title: 'At rest',
      help: 'Until something sets it.',
      group: 'Dials',
      default: '',
    } satisfies OptionDial,
  },
  rest: ({ rest }) => rest,
});
