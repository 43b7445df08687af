import { Vec3 } from '@vast-swarm/kernel';
import { blendLayers, LAYER_MODES, type LayerMode } from '../../feeds/blend';
import { choice, number, pictureDial, type MaskDial } from '../../language/dials';

const group = 'Where';

/** Dials of every treatment of the finish. */
export const finishDials = {
  share: number('Share', 1, [0, 1], 'How much of the treatment is seen.', { group }),
  mask: {
    type: 'mask',
    accepts: ['outline'],
    title: 'Mask',
    help: 'Shapes drawn over the picture, in which it is seen.',
    group,
    default: [],
  } as MaskDial,
  maskSoft: number('Mask edge', 0.03, [0, 2], 'How soft it is, in frame heights.', {
    group,
    drag: 'log',
  }),
  maskPicture: pictureDial(
    'Seen by',
    'It is seen as much as this is bright, laid over the frame.',
    {
      group,
    },
  ),
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

/** A layer of light that says nothing of how much of it is there: where it is dark, nothing is. */
export function laidOver(mode: LayerMode, below: Vec3, colour: Vec3): Vec3 {
  const there = colour.x.max(colour.y).max(colour.z).clamp(0, 1);
  const blended = blendLayers(mode, below, colour);
  return mode === 'add' || mode === 'screen' || mode === 'lighten'
    ? blended
    : Vec3.mix(below, blended, there);
}

export const layerMode = choice(
  'Lies over',
  'normal',
  LAYER_MODES,
  'How it meets what is below it.',
);

export const centreX = number('Centre across', 0.5, [-1, 2], 'Part of the width, from the left.');
export const centreY = number('Centre down', 0.5, [-1, 2], 'Part of the height, from the top.');
