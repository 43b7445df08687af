import { Vec3 } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { treatment } from '../define';

export const aberration = treatment({
  type: 'around',
  kind: 'aberration',
  title: 'Chromatic aberration',
  help: 'Red and blue come apart towards the corners, as in a simple lens.',
  icon: 'M9 6a6 6 0 1 0 0 12a6 6 0 0 0 0-12zM15 6a6 6 0 1 0 0 12a6 6 0 0 0 0-12z',
  dials: {
    amount: number('Amount', 0.004, [-0.2, 0.2], 'At the upper edge, as a part of the height.'),
  },
  build({ dial, pixel }) {
    const [cx, cy] = [pixel.width.div(2), pixel.height.div(2)];
    const [dx, dy] = [pixel.x.sub(cx), pixel.y.sub(cy)];
    const amount = dial.number('amount').mul(2);
    const at = (way: number): Vec3 => {
      const k = amount.mul(way).add(1);
      return pixel.sample(cx.add(dx.mul(k)), cy.add(dy.mul(k)));
    };
    return new Vec3(at(-1).x, pixel.nearest(pixel.x, pixel.y).y, at(1).z);
  },
});
