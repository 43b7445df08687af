import { choice, number, shownDial, swarmDial } from '../../language/dials';
import { luminance } from '../../feeds/luminance';
import { brightnessOver } from '../../language/pixel';
import { treatment } from '../define';

export const displacement = treatment({
  type: 'around',
  kind: 'displacement',
  title: 'Displacement',
  help: 'Light moves aside by its own brightness, or by that of a swarm or a picture.',
  icon: 'M3 8c4 0 4 4 8 4s4-4 10-4M3 14c4 0 4 4 8 4s4-4 10-4',
  layer: (dials) => (dials.by === 'swarm' ? dials.swarm : null),
  dials: {
    by: choice(
      'By',
      'itself',
      { itself: 'The frame itself', swarm: 'A swarm', picture: 'A picture or a medium' },
      'Whose light moves it.',
    ),
    swarm: swarmDial('Drawn on a layer of its own, and not below.', {
      when: { dial: 'by', is: ['swarm'] },
    }),
    picture: shownDial('Picture', 'Laid over the whole frame.', {
      when: { dial: 'by', is: ['picture'] },
    }),
    across: number('Across', 0.03, [-1, 1], 'How far at full light, as a part of the height.'),
    down: number('Down', 0, [-1, 1], 'How far at full light, as a part of the height.'),
    midpoint: number(
      'Midpoint',
      0,
      [0, 1],
      'Light that moves nothing; less moves it the other way.',
    ),
  },
  build({ dial, pixel, layer }) {
    const by = dial.choice('by');
    const picture = by === 'picture' ? dial.shown('picture') : undefined;
    const own = pixel.nearest(pixel.x, pixel.y);
    const light = picture
      ? brightnessOver(dial.builder, picture, pixel)
      : luminance(by === 'swarm' ? layer() : own);
    // Strong light moves no further than light of 1.
    const weight = light.clamp(0, 1).sub(dial.number('midpoint')).mul(pixel.height);
    const x = pixel.x.sub(dial.number('across').mul(weight));
    return pixel.sample(x, pixel.y.sub(dial.number('down').mul(weight)));
  },
});
