import { mix, Vec3 } from '@vast-swarm/kernel';
import { colourDial, number } from '../../../language/dials';
import { backdrop } from '../../define';

export const radial = backdrop({
  kind: 'radial',
  title: 'Radial',
  help: 'One colour in the middle, another at the edge.',
  icon: 'M4 5h16v14H4zM12 8.5a3.5 3.5 0 1 0 0 7a3.5 3.5 0 0 0 0-7z',
  dials: {
    inner: colourDial('Inner colour', '#0c2026', 'In the middle.'),
    outer: colourDial('Outer colour', '#020405', 'At the edge and beyond.'),
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
});
