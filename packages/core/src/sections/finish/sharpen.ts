import { Vec3 } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { treatment } from '../define';

export const sharpen = treatment({
  type: 'around',
  kind: 'sharpen',
  title: 'Sharpen',
  help: 'Lifts what differs from what is around it.',
  icon: 'M12 4l8 15H4zM12 10v4',
  dials: {
    amount: number('Amount', 0.5, [0, 10], 'How much it is lifted.', { drag: 'log' }),
    width: number('Width', 1.5, [0.5, 20], 'In pixels of a frame of 1080 lines.', { drag: 'log' }),
  },
  build({ dial, pixel }) {
    const g = dial.graph;
    const step = dial.number('width').mul(pixel.height).div(1080).max(1);
    const at = (dx: number, dy: number): Vec3 =>
      pixel.nearest(pixel.x.add(step.mul(dx)), pixel.y.add(step.mul(dy)));
    const own = at(0, 0);
    const around = at(-1, 0)
      .add(at(1, 0))
      .add(at(0, -1))
      .add(at(0, 1))
      .scale(1 / 4);
    const lifted = own.add(own.sub(around).scale(dial.number('amount')));
    const zero = g.float(0);
    return new Vec3(lifted.x.max(zero), lifted.y.max(zero), lifted.z.max(zero));
  },
});
