import { Vec3 } from '@vast-swarm/kernel';
import { choice } from '../../../language/dials';
import { launch } from '../../define';
import { speed } from './speed';

export const byColour = launch({
  kind: 'byColour',
  title: 'By the colour',
  help: 'Red leads to the right, green upward, blue towards the front; middle grey stays.',
  icon: 'M4 20V4M4 20h16M4 20l12-12M12 8h4v4',
  dials: {
    speed: speed(),
    way: choice(
      'Way',
      'space',
      { space: 'In space', plane: 'In the plane of the picture' },
      'Whether blue counts.',
    ),
  },
  build(dial, place) {
    const g = dial.graph;
    if (!place.colour) return new Vec3(g.float(0), g.float(0), g.float(0));
    // Middle grey as the file holds it: 0.2140 of linear light.
    const way = place.colour.parts.map((c) => c.max(0).sqrt().sub(0.4626).mul(2));
    const flat = dial.choice('way') === 'plane' ? g.float(0) : way[2]!;
    return new Vec3(way[0]!, way[1]!, flat).scale(dial.number('speed'));
  },
});
