import { exp, Vec3, type Expr } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { treatment } from '../define';

export const exposure = treatment({
  type: 'pixel',
  kind: 'exposure',
  title: 'Exposure and tone',
  help: 'Brings light of any strength into what a screen can show.',
  icon: 'M3 19c7 0 6-14 18-14M3 5v14h18',
  dials: {
    stops: number('Exposure', 0, [-10, 10], 'Each stop doubles the light.', { unit: 'stops' }),
    bleed: number('Bleed', 0.03, [0, 0.33], 'Part of strong light that whitens its core.'),
  },
  /**
   * Shoulder 1 - 1 / (1 + x + x²/2 + x³/6) per channel, which rises like 1 - e^-x and nears 1 more
   * slowly, after a part of each channel bled into the others.
   */
  build({ dial }, colour) {
    const g = dial.graph;
    const k = dial.number('bleed');
    const gain = exp(dial.number('stops').mul(Math.LN2));
    const total = colour.x.add(colour.y).add(colour.z).mul(k).mul(gain);
    const own = g.float(1).sub(k.mul(3)).mul(gain);
    const tone = (c: Expr): Expr => {
      const x = c.mul(own).add(total).max(0).min(1e8);
      const series = x
        .mul(1 / 6)
        .add(0.5)
        .mul(x)
        .add(1)
        .mul(x)
        .add(1);
      return g.float(1).sub(g.float(1).div(series));
    };
    return new Vec3(tone(colour.x), tone(colour.y), tone(colour.z));
  },
});
