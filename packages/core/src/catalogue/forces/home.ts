import { cos } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { force } from '../define';

/** The most that a spring swings in one step, as an angle: a quarter of a turn and some. */
const MOST = 2;

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
    // With this stiffness a step of h swings by just the angle ωh, whatever h, ω = √k: a push in the
    // middle of the step turns a spring by arccos(1 - k h² / 2) (E. Hairer, C. Lubich, G. Wanner,
    // "Geometric Numerical Integration", 2006, I.5). What swings faster than that has half a swing to
    // the step at the most: it stays stable up to k h² = 4.
    const square = step.mul(step).max(1e-9);
    const angle = dial.number('stiffness').mul(square).sqrt().min(MOST);
    const k = g.float(1).sub(cos(angle)).mul(2).div(square);
    return { push: born().sub(position).scale(k), drag: dial.number('damping') };
  },
});
