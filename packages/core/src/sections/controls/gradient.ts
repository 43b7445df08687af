import type { StopsDial } from '../../language/dials';
import { control } from '../define';

export const gradient = control({
  kind: 'gradient',
  title: 'Gradient',
  help: 'A gradient for dials that are colours, over whatever they go by.',
  icon: 'M3 8h18v8H3zM8 8v8M13 8v8M17 8v8M20 8v8',
  holds: 'gradient',
  dials: {
    rest: {
      type: 'stops',
      title: 'At rest',
      help: 'Until something sets it.',
      group: 'Dials',
      default: [
        { at: 0, colour: '#fff0c8', light: 3 },
        { at: 0.4, colour: '#ffb347', light: 1.5 },
        { at: 1, colour: '#3a0d12' },
      ],
    } satisfies StopsDial,
  },
  rest: ({ rest }) => rest,
});
