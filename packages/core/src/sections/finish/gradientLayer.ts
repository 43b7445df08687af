import { cos, sin } from '@vast-swarm/kernel';
import { blendLayers } from '../../feeds/blend';
import { choice, number } from '../../language/dials';
import { centreX, centreY, layerMode } from './common';
import { treatment } from '../define';

export const gradientLayer = treatment({
  type: 'pixel',
  kind: 'gradientLayer',
  title: 'Gradient layer',
  help: 'A gradient over the picture, straight or round.',
  icon: 'M4 5h16v14H4zM4 9h16M4 13h16M4 16h16',
  dials: {
    form: choice('Form', 'linear', { linear: 'Straight', radial: 'Round' }, 'How it runs.'),
    gradient: {
      type: 'colour' as const,
      title: 'Gradient',
      help: 'From its beginning to its end.',
      group: 'Dials',
      varies: 'life' as const,
      default: {
        feed: 'gradient' as const,
        stops: [
          { at: 0, colour: '#000000' },
          { at: 1, colour: '#1f6a7a' },
        ],
      },
    },
    light: number('Light', 1, [0, 100], 'Multiplies the gradient.', { drag: 'log' }),
    centreX,
    centreY,
    reach: number('Reach', 1, [0.01, 10], 'From its beginning to its end, in frame heights.'),
    turn: number('Turn', 90, [-36000, 36000], 'The way it runs; 90 is down.', {
      unit: '°',
      when: { dial: 'form', is: ['linear'] },
    }),
    over: { ...layerMode, default: 'add' },
  },
  build({ dial, pixel }, below) {
    const x = pixel.x.sub(dial.number('centreX').mul(pixel.width)).div(pixel.height);
    const y = pixel.y.sub(dial.number('centreY').mul(pixel.height)).div(pixel.height);
    const angle = dial.number('turn').mul(Math.PI / 180);
    const reach = dial.number('reach');
    const place =
      dial.choice('form') === 'radial'
        ? x.mul(x).add(y.mul(y)).sqrt().div(reach)
        : x
            .mul(cos(angle))
            .add(y.mul(sin(angle)))
            .div(reach)
            .add(0.5);
    const colour = dial.along(place.clamp(0, 1)).colour('gradient').scale(dial.number('light'));
    return blendLayers(dial.choice('over'), below, colour);
  },
});
