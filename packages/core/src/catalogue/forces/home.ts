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
  build(dial, { position, velocity, step, home: born }) {
    const g = dial.graph;
    // Pulled from where the step would end, and no stiffer than the step can follow: with K = k h²
    // the step's matrix has |trace| < 1 + det < 2 for 0 < K < 2, so that swings only die away.
    const most = g.float(1.5).div(step.mul(step).max(1e-9));
    const k = dial.number('stiffness').min(most);
    const way = born().sub(position).sub(velocity.scale(step));
    return { push: way.scale(k), drag: dial.number('damping') };
  },
});
