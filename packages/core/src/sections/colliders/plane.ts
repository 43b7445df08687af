import { Vec3 } from '@vast-swarm/kernel';
import { collider } from '../define';
import { floorLine } from '../outlines';

/** Distances of simple shapes: I. Quilez, "Distance functions", 2008, with their exact slopes. */

export const plane = collider({
  kind: 'plane',
  title: 'Plane',
  help: 'A floor, a wall or a ceiling without end; its face looks up its own y.',
  icon: 'M2 17l6-6h14l-6 6zM12 11V4M9 7l3-3l3 3',
  dials: {},
  outline: () => [
    floorLine(4, 4),
    [
      [0, 0, 0],
      [0, 0.8, 0],
    ],
  ],
  build(dial) {
    const g = dial.graph;
    const up = new Vec3(g.float(0), g.float(1), g.float(0));
    return { distance: (p) => ({ distance: p.y, normal: up }) };
  },
});
