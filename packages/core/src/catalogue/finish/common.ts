import { LAYER_MODES } from '../../feeds/blend';
import { choice, number, type ColourDial, type Dials } from '../dials';

const group = 'Where';

/** What every treatment of the finish has. */
export const finishDials: Dials = {
  share: number('Share', 1, [0, 1], 'How much of the treatment is seen.', { group }),
  mask: {
    type: 'mask',
    accepts: ['outline'],
    title: 'Mask',
    help: 'Shapes drawn over the picture, in which it is seen.',
    group,
    default: [],
  },
  maskSoft: number('Mask edge', 0.03, [0, 2], 'How soft it is, in frame heights.', {
    group,
    drag: 'log',
  }),
  maskSide: choice(
    'Seen',
    'inside',
    { inside: 'Inside the mask', outside: 'Outside it' },
    'Which side counts.',
    {
      group,
    },
  ),
};

export const layerMode = choice(
  'Lies over',
  'normal',
  LAYER_MODES,
  'How it meets what is below it.',
);

export function colourDial(title: string, value: string, help: string): ColourDial {
  return { type: 'colour', title, default: value, help, group: 'Dials', varies: 'frame' };
}

export const centreX = number('Centre across', 0.5, [-1, 2], 'Part of the width, from the left.');
export const centreY = number('Centre down', 0.5, [-1, 2], 'Part of the height, from the top.');
