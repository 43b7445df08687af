import { cos, sin, Vec3 } from '@vast-swarm/kernel';
import type { LaunchKind } from '../kinds';
import { choice, number, vector, type NumberDial } from '../dials';
import { frameAround } from '../emitters/frame';

const speed = (): NumberDial =>
  number('Speed', 0.5, [-1000, 1000], 'Speed at birth; below 0 it goes the other way.', {
    unit: 'm/s',
    varies: 'birth',
  });

export const outward: LaunchKind = {
  kind: 'outward',
  title: 'Outward',
  help: 'Away from the middle of the emitter, or from a point.',
  icon: 'M12 9V3M12 15v6M9 12H3M15 12h6M9 6l3-3l3 3M9 18l3 3l3-3',
  dials: {
    speed: speed(),
    from: vector('From', [0, 0, 0], 1000, 'm', "The point, from the emitter's centre."),
  },
  build(dial, place) {
    const away = place.position.sub(dial.vector('from'));
    const random = dial.randomDirection('outward');
    // At the very middle there is no outward: any direction is as good.
    const far = away.length().gt(1e-6);
    return Vec3.select(far, away, random).unit().scale(dial.number('speed'));
  },
};

export const cone: LaunchKind = {
  kind: 'cone',
  title: 'Cone',
  help: 'One direction, within a cone of some degrees.',
  icon: 'M12 21L5 5M12 21l7-16M5 5c3 2.5 11 2.5 14 0',
  dials: {
    speed: speed(),
    direction: vector('Direction', [0, 1, 0], 1, '', 'The middle of the cone.'),
    angle: number('Angle', 20, [0, 180], 'From the middle of the cone to its edge.', {
      unit: '°',
    }),
  },
  build(dial) {
    const g = dial.graph;
    const axis = dial.vector('direction').unit();
    const { u, v } = frameAround(axis);
    // Even by solid angle: the cosine is even between that of the edge and 1.
    const edge = cos(dial.number('angle').mul(Math.PI / 180));
    const c = edge.add(g.float(1).sub(edge).mul(dial.random('cone')));
    const s = g.float(1).sub(c.mul(c)).max(0).sqrt();
    const turn = dial.random('turn').mul(2 * Math.PI);
    const side = u.scale(cos(turn)).add(v.scale(sin(turn)));
    return axis.scale(c).add(side.scale(s)).scale(dial.number('speed'));
  },
};

export const allRound: LaunchKind = {
  kind: 'allRound',
  title: 'All round',
  help: 'Any direction at random.',
  icon: 'M12 12V3M12 12l8-4M12 12l5 7M12 12l-5 7M12 12L4 8',
  dials: { speed: speed() },
  build(dial) {
    return dial.randomDirection('all').scale(dial.number('speed'));
  },
};

export const tangent: LaunchKind = {
  kind: 'tangent',
  title: 'Along the line',
  help: 'Along a ring, a line or an outline.',
  icon: 'M12 20a8 8 0 1 1 8-8M20 12v-6M20 12l4-4M20 12l-4-4',
  dials: { speed: speed() },
  build(dial, place) {
    const along = place.tangent ?? frameAround(place.normal).u;
    return along.scale(dial.number('speed'));
  },
};

export const byColour: LaunchKind = {
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
};

export const alongNormal: LaunchKind = {
  kind: 'normal',
  title: 'Along the normal',
  help: "Square to the emitter's surface.",
  icon: 'M3 18c5-4 13-4 18 0M12 15V4M8 8l4-4l4 4',
  dials: { speed: speed() },
  build(dial, place) {
    return place.normal.scale(dial.number('speed'));
  },
};
