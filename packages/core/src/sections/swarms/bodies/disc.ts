import { hardness } from './common';
import { body } from '../../define';

export const disc = body({
  kind: 'disc',
  title: 'Disc',
  help: 'A round dot that always faces the camera, soft or hard.',
  icon: 'M12 5a7 7 0 1 0 0 14a7 7 0 0 0 0-14zM12 9a3 3 0 1 0 0 6a3 3 0 0 0 0-6z',
  shape: { draws: 'disc' },
  dials: { hardness },
});
