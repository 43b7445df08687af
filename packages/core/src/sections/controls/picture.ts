import { pictureDial } from '../../language/dials';
import { control } from '../define';

export const picture = control({
  kind: 'picture',
  title: 'Picture',
  help: 'A picture for dials that show one.',
  icon: 'M3 5h18v14H3zM3 16l5-5l4 4l3-3l6 5M15.500 9m-1.500 0a1.500 1.500 0 1 0 3 0a1.500 1.500 0 1 0-3 0',
  holds: 'picture',
  dials: { rest: pictureDial('At rest', 'Until something sets it.') },
  rest: ({ rest }) => rest,
});
