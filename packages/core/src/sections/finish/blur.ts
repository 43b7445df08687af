import { number } from '../../language/dials';
import { treatment } from '../define';

export const blurDials = {
  radius: number('Radius', 0.01, [0, 0.5], 'As a part of the height.', { drag: 'log' }),
};

export const blur = treatment({
  type: 'blur',
  kind: 'blur',
  title: 'Blur',
  help: 'Spreads light evenly about.',
  icon: 'M12 5a7 7 0 1 0 0 14a7 7 0 0 0 0-14zM12 9.5a2.5 2.5 0 1 0 0 5',
  dials: blurDials,
});
