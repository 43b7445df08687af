import { colourDial } from '../../../language/dials';
import { backdrop } from '../../define';

export const flat = backdrop({
  kind: 'flat',
  title: 'Flat',
  help: 'One colour behind everything.',
  icon: 'M4 5h16v14H4z',
  dials: { colour: colourDial('Colour', '#05090b', 'The colour of the empty picture.') },
  build(dial) {
    return dial.colour('colour');
  },
});
