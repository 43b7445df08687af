import type { Expr } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { force } from '../define';

export const home = force({
  kind: 'home',
  title: 'Spring home',
  help: 'Draws each particle back to where it was born.',
  icon: 'M4 11l8-7l8 7M6 10v10h12V10M9 14l2 2l2-2l2 2',
  dials: {
    stiffness: number('Stiffness', 8, [0, 10_000], 'Acceleration for each metre away.', {
      unit: '1/s²',
      varies: 'life',
      drag: 'log',
    }),
    damping: number('Damping', 1, [0, 1000], 'How soon it stops swinging.', {
      unit: '1/s',
      varies: 'life',
    }),
  },
  build(dial, { position, step, home: born }) {
    const g = dial.graph;
    // A push in the middle of the step turns a spring by arccos(1 - q / 2) in a step of h, q = k h² (E.
    // Hairer, C. Lubich, G. Wanner, "Geometric Numerical Integration", 2006, I.5). With q = 2 - 2 cos ωh
    // it turns by just ωh, whatever h; here is its series in K = (ωh)². What swings faster than ωh = 2
    // is held there, far from q = 4 where it would be stable no longer.
    const square = step.mul(step).max(1e-9);
    const most = dial.number('stiffness').mul(square).min(4);
    const series = [1 / 1814400, -1 / 20160, 1 / 360, -1 / 12, 1];
    const k = series.reduce<Expr>((sum, c) => sum.mul(most).add(c), g.float(0)).mul(most);
    return { push: born().sub(position).scale(k.div(square)), drag: dial.number('damping') };
  },
});
