import { light } from '../define';
import { lamp } from './lamp';

export const rim = light({
  kind: 'rim',
  title: 'Rim light',
  help: 'Draws a bright edge where things turn away.',
  icon: 'M16 4a9 9 0 0 1 0 16M12 6a6 6 0 1 0 0 12',
  dials: lamp(160, 30, '#ffd9a0', 1),
  falls: 'edge',
});
