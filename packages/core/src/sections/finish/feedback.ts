import { cos, sin, type Expr, Vec3 } from '@vast-swarm/kernel';
import { blendLayers } from '../../feeds/blend';
import { choice, number } from '../../language/dials';
import { edgesAt } from './edges';
import { treatment } from '../define';
import { reset } from './reset';

export const feedback = treatment({
  type: 'around',
  kind: 'feedback',
  title: 'Feedback',
  help: 'The last frame returns: faded, moved, scaled, turned, softened, edge-traced.',
  icon: 'M5 12a7 7 0 1 1 3 5.7M5 12l-2-3M5 12l3.2-1.6',
  remembers: true,
  dials: {
    fade: number('Fade', 0.9, [0, 1], 'What is left of the last frame.'),
    join: choice(
      'Joins',
      'lighten',
      { lighten: 'Lighten', add: 'Add', screen: 'Screen', normal: 'Mix' },
      'How the last frame meets the new one.',
    ),
    across: number('Across', 0, [-1, 1], 'Moves it, in parts of the height.', { group: 'Way' }),
    down: number('Down', 0, [-1, 1], 'Moves it, in parts of the height.', { group: 'Way' }),
    scale: number('Scale', 1, [0.5, 2], 'Over 1 it grows.', { group: 'Way' }),
    turn: number('Turn', 0, [-180, 180], 'A frame.', { group: 'Way', unit: '°' }),
    soften: number('Soften', 0, [0, 0.05], 'Blurs it, in parts of the height.', { group: 'Way' }),
    trace: number('Edge trace', 0, [0, 1], 'How much of it is edges alone.', { group: 'Way' }),
    reset,
  },
  build({ dial, pixel, past }) {
    const g = dial.graph;
    const now = pixel.nearest(pixel.x, pixel.y);
    const ratio = pixel.width.div(pixel.height);
    // About the middle, in parts of the height.
    const x = pixel.x.div(pixel.height).sub(ratio.mul(0.5)).sub(dial.number('across'));
    const y = pixel.y.div(pixel.height).sub(0.5).sub(dial.number('down'));
    const angle = dial.number('turn').mul(-Math.PI / 180);
    const [c, s] = [cos(angle), sin(angle)];
    const scale = g.float(1).div(dial.number('scale'));
    const bx = x.mul(c).sub(y.mul(s)).mul(scale);
    const by = x.mul(s).add(y.mul(c)).mul(scale);
    const at = (dx: Expr | number, dy: Expr | number): Vec3 =>
      past(bx.add(dx).div(ratio).add(0.5), by.add(dy).add(0.5));
    let back = at(0, 0);
    if (dial.raw('soften') !== 0) {
      const step = dial.number('soften').mul(0.5);
      const sides = [at(step, 0), at(step.neg(), 0), at(0, step), at(0, step.neg())];
      back = sides.reduce((sum, v) => sum.add(v), back.scale(4)).scale(1 / 8);
    }
    if (dial.raw('trace') !== 0) {
      const step = g.float(1).div(pixel.height);
      const traced = edgesAt((dx, dy) => at(step.mul(dx), step.mul(dy)));
      const trace = dial.number('trace');
      back = back.scale(g.float(1).sub(trace)).add(traced.scale(trace));
    }
    const fade = dial.number('fade');
    const kept = dial.number('reset').gt(0.5).select(0, fade);
    const join = dial.choice('join');
    if (join === 'normal') return now.scale(g.float(1).sub(kept)).add(back.scale(kept));
    return blendLayers(join, now, back.scale(kept));
  },
});
