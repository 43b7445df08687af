import { colourDial } from '../../language/dials';
import { control } from '../define';

export const colour = control({
  kind: 'colour',
  title: 'Colour',
  help: 'One colour for dials that are colours.',
  icon: 'M12 3c4 5 6 8 6 11a6 6 0 0 1-12 0c0-3 2-6 6-11z',
  holds: 'colour',
  dials: { rest: colourDial('At rest', '#ffb347', 'Until something sets it.') },
  rest: ({ rest }) => rest,
});
