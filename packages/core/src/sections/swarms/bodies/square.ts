import { body } from '../../define';
import { hardness, markDials } from './common';

export const square = body({
  kind: 'square',
  title: 'Square',
  help: 'A flat square, or with width and height a bar.',
  icon: 'M6 6h12v12H6z',
  shape: { draws: 'mark', pattern: 'square' },
  dials: { hardness: { ...hardness, default: 1 }, ...markDials },
});
