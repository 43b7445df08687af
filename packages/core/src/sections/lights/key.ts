import { light } from '../define';
import { lamp } from './lamp';
import { shadowDials } from './shadow';

export const key = light({
  kind: 'key',
  title: 'Key light',
  help: 'The main light, from far away; it can cast shadows on a floor.',
  icon: 'M12 3v3M5 6l2 2M19 6l-2 2M8 14a4 4 0 1 1 8 0zM9 18h6',
  dials: {
    ...lamp(-35, 45, '#fff1dc', 1),
    ...shadowDials,
  },
  falls: 'facing',
  casts: ({ shadow }) => shadow !== 0,
});
