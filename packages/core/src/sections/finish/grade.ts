import { cos, exp, log, sin, Vec3, type Expr } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { luminance } from '../../feeds/luminance';
import { treatment } from '../define';

/** Light that contrast leaves as it is. */
const MIDDLE_GREY = 0.18;

export const grade = treatment({
  type: 'pixel',
  kind: 'grade',
  title: 'Colour grade',
  help: 'Contrast, saturation, hue, warmth.',
  icon: 'M12 4a8 8 0 1 0 0 16a8 8 0 0 0 0-16zM12 4v16M12 9h7M12 14h7',
  dials: {
    contrast: number('Contrast', 1, [0, 4], 'About middle grey.'),
    saturation: number('Saturation', 1, [0, 4], '0 is grey.'),
    hue: number('Hue', 0, [-36000, 36000], 'Turns all colours round.', { unit: '°' }),
    warmth: number('Warmth', 0, [-1, 1], 'Below 0 bluer, above 0 more amber.'),
    green: number('Green', 0, [-1, 1], 'Below 0 more magenta, above 0 greener.'),
    gain: number('Gain', 1, [0, 100], 'Multiplies all light.', { drag: 'log' }),
  },
  build({ dial }, colour) {
    const g = dial.graph;
    const [contrast, saturation] = [dial.number('contrast'), dial.number('saturation')];
    const angle = dial.number('hue').mul(Math.PI / 180);
    const [c, s] = [cos(angle), sin(angle).mul(Math.sqrt(1 / 3))];
    // About the grey axis: what all three share stays (O. Rodrigues' formula for (1, 1, 1) / √3).
    const third = g.float(1).sub(c).div(3);
    const turned = (a: Expr, b: Expr, d: Expr): Expr =>
      a
        .mul(c.add(third))
        .add(b.mul(third.sub(s)))
        .add(d.mul(third.add(s)));
    const { x, y, z } = colour;
    const hue = new Vec3(turned(x, y, z), turned(y, z, x), turned(z, x, y));
    const grey = luminance(hue);
    const [warm, green] = [dial.number('warmth').mul(0.5), dial.number('green').mul(0.5)];
    const balance = new Vec3(warm, green, warm.neg());
    const part = (k: 'x' | 'y' | 'z'): Expr => {
      const full = grey.add(hue[k].sub(grey).mul(saturation)).mul(exp(balance[k]));
      const steep = exp(log(full.max(1e-6).div(MIDDLE_GREY)).mul(contrast)).mul(MIDDLE_GREY);
      return steep.mul(dial.number('gain'));
    };
    return new Vec3(part('x'), part('y'), part('z'));
  },
});
