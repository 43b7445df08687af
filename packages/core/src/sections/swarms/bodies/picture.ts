import { pictureDial } from '../../../language/dials';
import { body } from '../../define';
import { markDials } from './common';

export const picture = body({
  kind: 'picture',
  title: 'Picture',
  help: 'Any picture, with its opacity.',
  icon: 'M4 5h16v14H4zM4 16l5-5l4 4l3-3l4 4M15 9h.01',
  shape: { draws: 'mark', pattern: 'pictures' },
  dials: { picture: pictureDial('Drawn picture', 'What is drawn.'), ...markDials },
});
