import { cos, sin, smoothstep } from '@vast-swarm/kernel';
import { choice, number } from '../../language/dials';
import { luminance } from '../../feeds/luminance';
import { treatment } from '../define';
import { cell } from './cell';

export const halftone = treatment({
  type: 'around',
  kind: 'halftone',
  title: 'Halftone',
  help: 'Dots in a grid, larger where there is more light.',
  icon: 'M6 6h.01M12 6h.01M18 6h.01M6 12h.01M12 12h.01M18 12h.01M6 18h.01M12 18h.01M18 18h.01',
  dials: {
    cell,
    turn: number('Turn', 30, [-36000, 36000], 'Of the grid.', { unit: '°' }),
    form: choice('Form', 'dot', { dot: 'Dots', line: 'Lines' }, 'What the grid is made of.'),
  },
  build({ dial, pixel }) {
    const size = dial.number('cell').mul(pixel.height);
    const angle = dial.number('turn').mul(Math.PI / 180);
    const [c, s] = [cos(angle), sin(angle)];
    const u = pixel.x.mul(c).add(pixel.y.mul(s)).div(size);
    const v = pixel.y.mul(c).sub(pixel.x.mul(s)).div(size);
    const [mu, mv] = [u.floor().add(0.5), v.floor().add(0.5)];
    const [x, y] = [mu.mul(c).sub(mv.mul(s)).mul(size), mu.mul(s).add(mv.mul(c)).mul(size)];
    const colour = pixel.sample(x, y);
    const light = luminance(colour).clamp(0, 1);
    const [du, dv] = [u.sub(mu), v.sub(mv)];
    // The dot's area is the light's part of the cell.
    const dot = dial.choice('form') === 'dot';
    const radius = dot ? light.div(Math.PI).sqrt() : light.mul(0.5);
    const far = dot ? du.mul(du).add(dv.mul(dv)).sqrt() : dv.abs();
    const soft = dial.graph.float(1).div(size);
    const inside = dial.graph.float(1).sub(smoothstep(radius.sub(soft), radius.add(soft), far));
    const full = colour.scale(dial.graph.float(1).div(light.max(0.02)));
    return full.scale(inside);
  },
});
