import { number } from '../../../language/dials';
import { body } from '../../define';
import { hardness, markDials } from './common';

export const ring = body({
  kind: 'ring',
  title: 'Ring',
  help: 'A round line.',
  icon: 'M12 5a7 7 0 1 0 0 14a7 7 0 0 0 0-14z',
  shape: { draws: 'mark', pattern: 'ring', param: 'line' },
  dials: {
    hardness,
    line: number(
      'Line',
      0.15,
      [0.02, 0.5],
      'Half the width of the line, as a part of the radius.',
      {
        varies: 'never',
      },
    ),
    ...markDials,
  },
});
