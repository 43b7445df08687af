import { number } from '../../language/dials';
import { light } from '../define';
import { lightColour } from './lamp';

export const ambient = light({
  kind: 'ambient',
  title: 'Ambient light',
  help: 'The same light from everywhere.',
  icon: 'M12 8a4 4 0 1 0 0 8a4 4 0 0 0 0-8zM4 12h.01M20 12h.01M12 4h.01M12 20h.01',
  dials: {
    colour: lightColour('#24404a'),
    strength: number('Strength', 0.5, [0, 100], 'Multiplies its light.', { drag: 'log' }),
  },
  falls: 'everywhere',
});
