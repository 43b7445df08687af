import { number, type NumberDial } from '../../../language/dials';

export const speed = (): NumberDial =>
  number('Speed', 0.5, [-1000, 1000], 'Speed at birth; below 0 it goes the other way.', {
    unit: 'm/s',
    varies: 'birth',
  });
