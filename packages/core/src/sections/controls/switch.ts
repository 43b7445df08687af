import { choice } from '../../language/dials';
import { control } from '../define';
import { keyDial } from './common';

export const onOff = control({
  kind: 'switch',
  title: 'Switch',
  help: 'Switches parts on and off.',
  icon: 'M8 7h8a5 5 0 0 1 0 10H8A5 5 0 0 1 8 7zM16 12m-2.500 0a2.500 2.500 0 1 0 5 0a2.500 2.500 0 1 0-5 0',
  holds: 'switch',
  dials: {
    rest: choice('At rest', 'on', { on: 'On', off: 'Off' }, 'Until something sets it.'),
    key: keyDial('While this key is held, it is the other way round.'),
  },
  rest: ({ rest }) => rest === 'on',
  held: ({ key, rest }) => (key ? { key, value: rest !== 'on' } : null),
});
