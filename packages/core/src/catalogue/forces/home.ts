import type { ForceKind } from '../kinds';
import { number } from '../dials';

export const home: ForceKind = {
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
    const [k, c] = [dial.number('stiffness'), dial.number('damping')];
    // The spring as it is at the end of the step (backward Euler): steady however stiff it is.
    const ahead = born().sub(position).sub(velocity.scale(step)).scale(k);
    const whole = ahead.sub(velocity.scale(c));
    const soft = g.float(1).add(c.mul(step)).add(k.mul(step).mul(step));
    return { push: whole.scale(g.float(1).div(soft)) };
  },
};
