import { Vec3 } from '@vast-swarm/kernel';
import { brushedFlow, GRID } from '../../stock/brush';
import type { Strokes } from '../../feeds/feeds';
import type { ForceKind } from '../kinds';
import { number } from '../dials';
import { flowDials, flowEffect } from './flow';
import { planeDials, planePlace, readGrid } from './plane';

export const brushed: ForceKind = {
  kind: 'brushed',
  title: 'Painted flow',
  help: 'Directions brushed by hand over a plane in the picture.',
  icon: 'M3 17c4-1 5-6 9-6s5 3 9 1M17 8l4 4l-4 3M5 8c2-2 4-2 6-1',
  dials: {
    strokes: {
      type: 'strokes',
      title: 'Strokes',
      help: 'Brush in the picture; the newest lies on top.',
      group: 'Dials',
      default: [],
    },
    speed: number('Speed', 1, [-1000, 1000], 'Of a stroke of strength 1.', {
      unit: 'm/s',
      varies: 'life',
    }),
    ...planeDials,
    ...flowDials('push'),
  },
  build(dial, { position, step }) {
    const strokes = dial.raw('strokes') as Strokes;
    if (strokes.length === 0) return {};
    const grid = brushedFlow(strokes);
    const { u, v, across, up, inside } = planePlace(dial, position);
    const read = (values: Float32Array, name: string) =>
      readGrid(dial, `data/brush.${dial.scope}.${name}`, values, GRID, GRID, u, v);
    const weight = dial.number('speed').mul(inside);
    const [x, y] = [read(grid.x, 'x').mul(weight), read(grid.y, 'y').mul(weight)];
    const flow = new Vec3(
      across.x.mul(x).add(up.x.mul(y)),
      across.y.mul(x).add(up.y.mul(y)),
      across.z.mul(x).add(up.z.mul(y)),
    );
    return flowEffect(dial, flow, step);
  },
};
