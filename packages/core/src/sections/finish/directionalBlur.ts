import { cos, sin } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { treatment } from '../define';
import { PASSES, meanAlong } from './meanAlong';

export const directionalBlur = treatment({
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
  build({ dial, pixel, pass }) {
    const length = dial.number('length').mul(pixel.height);
    const angle = dial.number('turn').mul(Math.PI / 180);
    const [dx, dy] = [cos(angle).mul(length), sin(angle).mul(length)];
    return meanAlong(pass, (o) => pixel.sample(pixel.x.add(dx.mul(o)), pixel.y.add(dy.mul(o))));
  },
});
