import { blendLayers } from '../../feeds/blend';
import { choice, number } from '../../language/dials';
import { treatment } from '../define';
import { reset } from './reset';

export const buildUp = treatment({
  type: 'around',
  kind: 'buildUp',
  title: 'Build-up',
  help: 'Light stays where it fell, like paint, until it is reset.',
  icon: 'M4 19h16M6 15h12M8 11h8M10 7h4',
  remembers: true,
  dials: {
    strength: number('Strength', 0.2, [0, 1], 'How much of each frame is laid down.'),
    join: choice(
      'Joins',
      'lighten',
      { lighten: 'Lighten', add: 'Add' },
      'How new light meets old.',
    ),
    reset,
  },
  build({ dial, pixel, past }) {
    const now = pixel.nearest(pixel.x, pixel.y);
    const before = past(pixel.x.div(pixel.width), pixel.y.div(pixel.height));
    const kept = before.scale(dial.number('reset').gt(0.5).select(0, dial.graph.float(1)));
    return blendLayers(dial.choice('join'), kept, now.scale(dial.number('strength')));
  },
});
