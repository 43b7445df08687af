import { number } from '../../language/dials';

export const reset = number(
  'Reset',
  0,
  [0, 1],
  'While it is over a half the past is forgotten; key it.',
  {
    group: 'Time',
  },
);
