import { hash, type Expr } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { treatment } from '../define';

export const grain = treatment({
  type: 'pixel',
  kind: 'grain',
  title: 'Grain',
  help: 'Fine noise that is new in every frame.',
  icon: 'M5 6h.01M10 5h.01M15 7h.01M19 5h.01M6 11h.01M12 10h.01M17 12h.01M5 16h.01M9 19h.01M14 16h.01M19 18h.01',
  dials: { amount: number('Amount', 0.03, [0, 0.5], 'Strength at middle brightness.') },
  build({ dial, pixel }, colour) {
    const noise = hash(pixel.key.xor(dial.seed('grain')));
    const part = (low: number): Expr =>
      noise
        .shrU(low)
        .and(0xffff)
        .toFloat()
        .mul(2 ** -16);
    // Two even numbers make a triangle from -1 to 1.
    const factor = part(0).add(part(16)).sub(1).mul(dial.number('amount'));
    return colour.scale(factor.mul(2).add(1).max(0));
  },
});
