import { exp, Vec3, type Expr } from '@vast-swarm/kernel';
import type { PixelFinishKind } from '../kinds';
import { number } from '../dials';

export const exposure: PixelFinishKind = {
  type: 'pixel',
  kind: 'exposure',
  title: 'Exposure and tone',
  help: 'Brings light of any strength into what a screen can show.',
  icon: 'M3 19c7 0 6-14 18-14M3 5v14h18',
  dials: {
    stops: number('Exposure', 0, [-10, 10], 'Each stop doubles the light.', { unit: 'stops' }),
    bleed: number('Bleed', 0.03, [0, 0.33], 'Part of strong light that whitens its core.'),
  },
  /** Film-like shoulder 1 - e^-x per channel, after a part of each channel bled into the others. */
  build(dial, colour) {
    const g = dial.graph;
    const k = dial.number('bleed');
    const gain = exp(dial.number('stops').mul(Math.LN2));
    const total = colour.x.add(colour.y).add(colour.z).mul(k);
    const own = g.float(1).sub(k.mul(3));
    const tone = (c: Expr): Expr =>
      g.float(1).sub(exp(c.mul(own).add(total).mul(gain).neg()));
    return new Vec3(tone(colour.x), tone(colour.y), tone(colour.z));
  },
};
