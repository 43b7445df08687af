import { Vec3 } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { force } from '../define';

export const flocking = force({
  kind: 'flocking',
  title: 'Flocking',
  help: 'Keeps apart, heads the same way and keeps together with those near by.',
  icon: 'M3 8l4 2l4-2M9 14l4 2l4-2M13 6l4 2l4-2M4 18l3 1l3-1',
  dials: {
    radius: number('Radius', 0.5, [0.001, 100], 'How far a particle sees.', {
      unit: 'm',
      varies: 'never',
      drag: 'log',
    }),
    separation: number('Separation', 2, [0, 1000], 'Away from those that are too near.', {
      unit: 'm/s²',
      varies: 'life',
    }),
    alignment: number('Alignment', 1, [0, 1000], 'Towards the velocity of the others.', {
      unit: '1/s',
      varies: 'life',
    }),
    cohesion: number('Cohesion', 1, [0, 1000], 'Towards the middle of the others.', {
      unit: '1/s²',
      varies: 'life',
    }),
  },
  sight: (dials) => dials.radius,
  // C. W. Reynolds, "Flocks, Herds, and Schools", SIGGRAPH 1987.
  build(dial, { near }) {
    const g = dial.graph;
    const radius = dial.number('radius');
    const zero = g.float(0);
    const zeros = Array.from({ length: 10 }, () => zero);
    const sums = near().sum(zeros, (offset, velocity, before) => {
      const distance = offset.length().max(1e-6);
      const close = g.float(1).sub(distance.div(radius)).max(0);
      const inside = distance.lt(radius).select(1, zero);
      const push = offset.scale(close.div(distance).neg());
      const parts = [...push.parts, ...velocity.parts, ...offset.parts];
      const next = parts.map((p, i) => before[i]!.add(p.mul(inside)));
      return [...next, before[9]!.add(inside)];
    });
    const count = sums[9]!.max(1);
    const mean = (from: number, by: 'separation' | 'alignment' | 'cohesion', share: boolean) =>
      [0, 1, 2].map((i) => {
        const sum = sums[from + i]!;
        return (share ? sum.div(count) : sum).mul(dial.number(by));
      });
    const parts = [
      mean(0, 'separation', false),
      mean(3, 'alignment', true),
      mean(6, 'cohesion', true),
    ];
    const total = (i: number) => parts.reduce((s, p) => s.add(p[i]!), zero);
    return { push: new Vec3(total(0), total(1), total(2)) };
  },
});
