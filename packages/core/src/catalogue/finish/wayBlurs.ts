import { cos, sin, Vec3, type Expr } from '@vast-swarm/kernel';
import { choice, number } from '../dials';
import type { AroundFinishKind } from '../kinds';
import type { FinishContext } from '../../plan/finish/steps';
import { centreX, centreY } from './common';

/** Passes of a blur along a way: each takes four places, a quarter as far apart as the one before. */
const PASSES = 3;

/** The mean of four places, at offsets from -1/2 to 1/2 of the whole way. */
function meanAlong({ dial, pass }: FinishContext, at: (offset: Expr) => Vec3): Vec3 {
  const g = dial.graph;
  const step = pass.lt(0.5).select(1 / 4, pass.lt(1.5).select(1 / 16, g.float(1 / 64)));
  return [-1.5, -0.5, 0.5, 1.5]
    .map((k) => at(step.mul(k)))
    .reduce((sum, c) => sum.add(c))
    .scale(1 / 4);
}

export const directionalBlur: AroundFinishKind = {
  type: 'around',
  kind: 'directionalBlur',
  title: 'Directional blur',
  help: 'Draws light out along one direction.',
  icon: 'M3 8h18M6 12h12M3 16h18',
  passes: PASSES,
  dials: {
    length: number('Length', 0.05, [0, 1], 'As a part of the height.', { drag: 'log' }),
    turn: number('Direction', 0, [-36000, 36000], '0 is across, 90 is down.', { unit: '°' }),
  },
  build(context) {
    const { dial, pixel } = context;
    const length = dial.number('length').mul(pixel.height);
    const angle = dial.number('turn').mul(Math.PI / 180);
    const [dx, dy] = [cos(angle).mul(length), sin(angle).mul(length)];
    return meanAlong(context, (o) => pixel.sample(pixel.x.add(dx.mul(o)), pixel.y.add(dy.mul(o))));
  },
};

export const radialBlur: AroundFinishKind = {
  type: 'around',
  kind: 'radialBlur',
  title: 'Radial blur',
  help: 'Draws light out from a centre, or round it.',
  icon: 'M12 3v4M12 17v4M3 12h4M17 12h4M6 6l2 2M16 16l2 2M6 18l2-2M16 8l2-2',
  passes: PASSES,
  dials: {
    form: choice('Form', 'out', { out: 'Outward', round: 'Round' }, 'Which way it draws.'),
    amount: number('Amount', 0.15, [0, 2], 'Part of the distance, or of a turn.', { drag: 'log' }),
    centreX,
    centreY,
  },
  build(context) {
    const { dial, pixel } = context;
    const cx = dial.number('centreX').mul(pixel.width);
    const cy = dial.number('centreY').mul(pixel.height);
    const [dx, dy] = [pixel.x.sub(cx), pixel.y.sub(cy)];
    const amount = dial.number('amount');
    return meanAlong(context, (o) => {
      if (dial.choice('form') === 'out') {
        const k = amount.mul(o).add(1);
        return pixel.sample(cx.add(dx.mul(k)), cy.add(dy.mul(k)));
      }
      const angle = amount.mul(o).mul(2 * Math.PI);
      const [c, s] = [cos(angle), sin(angle)];
      return pixel.sample(cx.add(dx.mul(c)).sub(dy.mul(s)), cy.add(dx.mul(s)).add(dy.mul(c)));
    });
  },
};
