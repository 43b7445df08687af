import { cos, mix, sin, Vec3 } from '@vast-swarm/kernel';
import type { BackdropKind } from '../kinds';
import { number, type ColourDial } from '../dials';

const colour = (title: string, value: string, help: string): ColourDial => ({
  type: 'colour',
  title,
  default: value,
  help,
  group: 'Dials',
  varies: 'frame',
});

export const flat: BackdropKind = {
  kind: 'flat',
  title: 'Flat',
  help: 'One colour behind everything.',
  icon: 'M4 5h16v14H4z',
  dials: { colour: colour('Colour', '#05090b', 'The colour of the empty picture.') },
  build(dial) {
    return dial.colour('colour');
  },
};

export const radial: BackdropKind = {
  kind: 'radial',
  title: 'Radial',
  help: 'One colour in the middle, another at the edge.',
  icon: 'M4 5h16v14H4zM12 8.5a3.5 3.5 0 1 0 0 7a3.5 3.5 0 0 0 0-7z',
  dials: {
    inner: colour('Inner colour', '#0c2026', 'In the middle.'),
    outer: colour('Outer colour', '#020405', 'At the edge and beyond.'),
    centreX: number('Centre across', 0.5, [-1, 2], 'Part of the width, from the left.'),
    centreY: number('Centre down', 0.5, [-1, 2], 'Part of the height, from the top.'),
    radius: number('Radius', 0.8, [0.01, 4], 'Part of the height.'),
  },
  build(dial, pixel) {
    const g = dial.graph;
    const x = pixel.x.sub(dial.number('centreX').mul(pixel.width));
    const y = pixel.y.sub(dial.number('centreY').mul(pixel.height));
    const reach = dial.number('radius').mul(pixel.height);
    const far = x.mul(x).add(y.mul(y)).div(reach.mul(reach)).min(1);
    // (1 - d²)² has no edge at the middle or at the rim.
    const near = g.float(1).sub(far);
    const t = near.mul(near);
    const [inner, outer] = [dial.colour('inner'), dial.colour('outer')];
    return new Vec3(mix(outer.x, inner.x, t), mix(outer.y, inner.y, t), mix(outer.z, inner.z, t));
  },
};

export const linear: BackdropKind = {
  kind: 'linear',
  title: 'Linear',
  help: 'One colour runs into another along a line.',
  icon: 'M4 5h16v14H4zM4 9h16M4 13h16M4 16h16',
  dials: {
    first: colour('First colour', '#04070c', 'Where the line begins, and before it.'),
    last: colour('Last colour', '#10303a', 'Where the line ends, and beyond.'),
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
};
