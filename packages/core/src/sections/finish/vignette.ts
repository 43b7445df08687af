import { smoothstep } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { treatment } from '../define';

export const vignette = treatment({
  type: 'pixel',
  kind: 'vignette',
  title: 'Vignette',
  help: 'Darkens the corners.',
  icon: 'M4 5h16v14H4zM12 7c4 0 7 2 7 5s-3 5-7 5s-7-2-7-5s3-5 7-5z',
  dials: {
    amount: number('Amount', 0.4, [0, 1], 'How dark the corners get.'),
    start: number('Start', 0.35, [0, 1], 'Where it begins on the way to the corner.'),
  },
  build({ dial, pixel }, colour) {
    const g = dial.graph;
    const x = pixel.x.div(pixel.width).mul(2).sub(1);
    const y = pixel.y.div(pixel.height).mul(2).sub(1);
    const far = x.mul(x).add(y.mul(y)).mul(0.5).sqrt();
    const dark = smoothstep(dial.number('start').min(0.99), g.float(1), far);
    return colour.scale(g.float(1).sub(dark.mul(dial.number('amount'))));
  },
});
