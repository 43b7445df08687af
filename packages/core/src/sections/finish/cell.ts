import { number } from '../../language/dials';

export const cell = number('Cell', 0.02, [0.003, 0.5], 'As a part of the height.', { drag: 'log' });
