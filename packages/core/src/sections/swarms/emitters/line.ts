import { mix, Vec3 } from '@vast-swarm/kernel';
import type { Vector } from '../../../feeds/feeds';
import { choice, number, vector } from '../../../language/dials';
import { frameAround } from './frame';
import { evenPart } from './order';
import { emitter } from '../../define';
import { plainVector } from '../../outlines';

function distance(from: Vector | null, to: Vector | null): number {
  return from && to ? Math.hypot(...from.map((v, i) => to[i]! - v)) : 1;
}

export const line = emitter({
  kind: 'line',
  title: 'Line',
  help: 'Particles start on a straight line.',
  icon: 'M4 20L20 4M2 20h4M18 4h4',
  dials: {
    from: vector('From', [-1, 0, 0], 1000, 'm', 'One end.', { grasp: 'ownPlace' }),
    to: vector('To', [1, 0, 0], 1000, 'm', 'The other end.', { grasp: 'ownPlace' }),
    placing: choice(
      'Placing',
      'random',
      { random: 'At random', even: 'Evenly' },
      'Evenly puts each birth one place further along.',
    ),
    places: number('Places', 60, [1, 100000], 'Places along the line when placed evenly.', {
      whole: true,
      when: { dial: 'placing', is: ['even'] },
    }),
  },
  places: ({ placing, places, from, to }) =>
    placing === 'even'
      ? {
          count: places,
          spacing: () => distance(plainVector(from), plainVector(to)) / places,
          coloured: false,
        }
      : null,
  outline: ({ from, to }) => [[plainVector(from) ?? [0, 0, 0], plainVector(to) ?? [0, 0, 0]]],
  build(dial) {
    const g = dial.graph;
    const [a, b] = [dial.vector('from'), dial.vector('to')];
    const even = dial.choice('placing') === 'even';
    const half = even ? g.float(0.5).div(dial.whole('places').toFloat()) : g.float(0);
    const t = even ? evenPart(dial, dial.plain('places')).add(half) : dial.random('place');
    const part = (i: number) => mix(a.parts[i]!, b.parts[i]!, t);
    const way = b.sub(a).unit();
    const { u } = frameAround(way);
    return {
      position: new Vec3(part(0), part(1), part(2)),
      normal: u,
      tangent: way,
      surface: [t, g.float(0.5)],
    };
  },
});
