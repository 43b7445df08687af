import { cos, sin } from '@vast-swarm/kernel';
import { choice, number } from '../../language/dials';
import { centreX, centreY } from './common';
import { treatment } from '../define';
import { PASSES, meanAlong } from './meanAlong';

export const radialBlur = treatment({
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
  build({ dial, pixel, pass }) {
    const cx = dial.number('centreX').mul(pixel.width);
    const cy = dial.number('centreY').mul(pixel.height);
    const [dx, dy] = [pixel.x.sub(cx), pixel.y.sub(cy)];
    const amount = dial.number('amount');
    return meanAlong(pass, (o) => {
      if (dial.choice('form') === 'out') {
        const k = amount.mul(o).add(1);
        return pixel.sample(cx.add(dx.mul(k)), cy.add(dy.mul(k)));
      }
      const angle = amount.mul(o).mul(2 * Math.PI);
      const [c, s] = [cos(angle), sin(angle)];
      return pixel.sample(cx.add(dx.mul(c)).sub(dy.mul(s)), cy.add(dx.mul(s)).add(dy.mul(c)));
    });
  },
});
