import { pow, Vec3, type Expr } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { treatment } from '../define';

export const levels = treatment({
  type: 'pixel',
  kind: 'levels',
  title: 'Levels',
  help: 'Sets what counts as black, white and middle grey.',
  icon: 'M4 19h16M6 19v-6M10 19V6M14 19v-9M18 19v-4',
  dials: {
    black: number('Black', 0, [-1, 10], 'Light at and below it becomes black.'),
    white: number('White', 1, [0.001, 100], 'Light that becomes 1.', { drag: 'log' }),
    gamma: number('Middle', 1, [0.1, 10], 'Over 1 lifts the middle.', { drag: 'log' }),
    lowest: number('Lowest', 0, [0, 10], 'Light of black afterwards.'),
    highest: number('Highest', 1, [0, 100], 'Light of white afterwards.', { drag: 'log' }),
  },
  build({ dial }, colour) {
    const black = dial.number('black');
    const span = dial.number('white').sub(black).max(1e-4);
    const power = dial.graph.float(1).div(dial.number('gamma'));
    const [low, high] = [dial.number('lowest'), dial.number('highest')];
    const level = (c: Expr): Expr => {
      const part = pow(c.sub(black).div(span).max(1e-6), power);
      return low.add(part.mul(high.sub(low)));
    };
    return new Vec3(level(colour.x), level(colour.y), level(colour.z));
  },
});
