import { blendLayers } from '../../feeds/blend';
import { colourDial, number } from '../../language/dials';
import { layerMode } from './common';
import { treatment } from '../define';

/** Layers that are laid over the frame, each with its blend mode. */

export const colourLayer = treatment({
  type: 'pixel',
  kind: 'colourLayer',
  title: 'Colour layer',
  help: 'One colour over the picture, or through a drawn mask.',
  icon: 'M4 8h12v11H4zM8 8V5h12v11h-4',
  dials: {
    colour: colourDial('Colour', '#ffcf9a', 'Of the layer.'),
    light: number('Light', 1, [0, 100], 'Multiplies the colour.', { drag: 'log' }),
    over: { ...layerMode, default: 'multiply' },
  },
  build({ dial }, below) {
    const colour = dial.colour('colour').scale(dial.number('light'));
    return blendLayers(dial.choice('over'), below, colour);
  },
});
