import { number, swarmDial } from '../../language/dials';
import { laidOver, layerMode } from './common';
import { treatment } from '../define';

export const swarmLayer = treatment({
  type: 'pixel',
  kind: 'swarmLayer',
  title: 'Swarm layer',
  help: 'A swarm that is drawn on a layer of its own, laid over here.',
  icon: 'M4 9l8-4l8 4l-8 4zM4 13l8 4l8-4',
  layer: (dials) => dials.swarm,
  dials: {
    swarm: swarmDial('Drawn here and not below.'),
    light: number('Light', 1, [0, 100], 'Multiplies the layer.', { drag: 'log' }),
    over: { ...layerMode, default: 'screen' },
  },
  build({ dial, layer }, below) {
    const colour = layer().scale(dial.number('light'));
    return laidOver(dial.choice('over'), below, colour);
  },
});
