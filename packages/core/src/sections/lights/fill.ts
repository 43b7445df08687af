import { light } from '../define';
import { lamp } from './lamp';

export const fill = light({
  kind: 'fill',
  title: 'Fill light',
  help: 'Lifts what the key light leaves dark.',
  icon: 'M12 4a8 8 0 0 0 0 16zM12 4a8 8 0 0 1 0 16',
  dials: lamp(50, 15, '#9fc6d8', 0.35),
  falls: 'facing',
});
