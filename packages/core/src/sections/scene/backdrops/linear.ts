import { cos, sin, Vec3 } from '@vast-swarm/kernel';
import { colourDial, number } from '../../../language/dials';
import { backdrop } from '../../define';

export const linear = backdrop({
  kind: 'linear',
  title: 'Linear',
  help: 'One colour runs into another along a line.',
  icon: 'M4 5h16v14H4zM4 9h16M4 13h16M4 16h16',
  dials: {
    first: colourDial('First colour', '#04070c', 'Where the line begins, and before it.'),
    last: colourDial('Last colour', '#10303a', 'Where the line ends, and beyond.'),
    turn: number('Direction', 90, [-36000, 36000], '0 is across, 90 is down.', { unit: '°' }),
    centreX: number('Centre across', 0.5, [-1, 2], 'Part of the width, from the left.'),
    centreY: number('Centre down', 0.5, [-1, 2], 'Part of the height, from the top.'),
    reach: number('Reach', 1, [0.01, 10], 'From its beginning to its end, in frame heights.'),
  },
  build(dial, pixel) {
    const x = pixel.x.sub(dial.number('centreX').mul(pixel.width)).div(pixel.height);
    const y = pixel.y.sub(dial.number('centreY').mul(pixel.height)).div(pixel.height);
    const angle = dial.number('turn').mul(Math.PI / 180);
    const way = x.mul(cos(angle)).add(y.mul(sin(angle)));
    const t = way.div(dial.number('reach')).add(0.5).clamp(0, 1);
    return Vec3.mix(dial.colour('first'), dial.colour('last'), t);
  },
});
