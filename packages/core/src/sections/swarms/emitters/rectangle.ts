import { Vec3 } from '@vast-swarm/kernel';
import { choice, number } from '../../../language/dials';
import { emitter } from '../../define';
import { drawnSize, floorLine } from '../../outlines';

export const rectangle = emitter({
  kind: 'rectangle',
  title: 'Rectangle',
  help: 'Particles start on a flat rectangle or on its rim.',
  icon: 'M3 16l5-8h13l-5 8z',
  dials: {
    width: number('Width', 2, [0, 1000], 'Along x.', { unit: 'm' }),
    depth: number('Depth', 2, [0, 1000], 'Along z.', { unit: 'm' }),
    fill: choice(
      'From',
      'inside',
      { inside: 'All of it', edges: 'The rim' },
      'Evenly by area or by length.',
    ),
  },
  outline: ({ width, depth }) => [floorLine(drawnSize(width), drawnSize(depth))],
  build(dial) {
    const g = dial.graph;
    const [w, d] = [dial.number('width'), dial.number('depth')];
    const zero = g.float(0);
    const [x, z] = [dial.random('x').sub(0.5), dial.random('z').sub(0.5)];
    const up = new Vec3(zero, g.float(1), zero);
    if (dial.choice('fill') === 'inside') {
      const surface = [x.add(0.5), z.add(0.5)] as const;
      return { position: new Vec3(x.mul(w), zero, z.mul(d)), normal: up, surface };
    }
    const side = dial.random('side').lt(0.5).select(g.float(-0.5), g.float(0.5));
    const alongX = dial.random('edge').mul(w.abs().add(d.abs())).lt(w.abs());
    const [px, pz] = [alongX.select(x, side), alongX.select(side, z)];
    const normal = new Vec3(alongX.select(zero, side), zero, alongX.select(side, zero)).unit();
    const surface = [px.add(0.5), pz.add(0.5)] as const;
    return { position: new Vec3(px.mul(w), zero, pz.mul(d)), normal, surface };
  },
});
