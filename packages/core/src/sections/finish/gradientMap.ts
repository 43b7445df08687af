import type { Expr } from '@vast-swarm/kernel';
import { number } from '../../language/dials';
import { swing } from '../../feeds/loop';
import type { PartReader } from '../../language/partReader';
import { luminance } from '../../feeds/luminance';
import { treatment } from '../define';

/** How far the gradient has moved along by itself; in a loop by whole gradients, or to and fro. */
function driftOf(part: PartReader, speed: Expr): Expr {
  const { period } = part;
  if (period === null) return speed.mul(part.time());
  const whole = speed.mul(period).add(0.5).floor();
  const to = part.changing('swing', (time) => swing(time, period));
  return whole.eq(0).select(speed.mul(to), whole.mul(part.time()).mul(1 / period));
}

export const gradientMap = treatment({
  type: 'pixel',
  kind: 'gradientMap',
  title: 'Gradient map',
  help: 'Brightness becomes a place on a gradient, which can drift.',
  icon: 'M3 7h18v10H3zM8 7v10M13 7v10M17 7v10',
  dials: {
    gradient: {
      type: 'colour' as const,
      title: 'Gradient',
      help: 'From dark to bright.',
      group: 'Dials',
      varies: 'life' as const,
      default: {
        feed: 'gradient' as const,
        stops: [
          { at: 0, colour: '#04080f' },
          { at: 0.35, colour: '#12506b' },
          { at: 0.7, colour: '#ffb45c' },
          { at: 1, colour: '#fff4dc' },
        ],
      },
    },
    repeat: number('Repeats', 1, [0.1, 50], 'How often the gradient runs from dark to bright.', {
      drag: 'log',
    }),
    phase: number('Phase', 0, [-100, 100], 'Moves the gradient along.'),
    drift: number('Drift', 0, [-20, 20], 'It moves along by itself.', { unit: '/s' }),
  },
  build({ dial }, colour) {
    // The square root stands for what the eye sees.
    const bright = luminance(colour).max(0).sqrt();
    const moved = dial.number('phase').add(driftOf(dial, dial.number('drift')));
    const place = bright.mul(dial.number('repeat')).add(moved);
    const still = dial.raw('repeat') === 1 && dial.raw('phase') === 0 && dial.raw('drift') === 0;
    return dial.along(still ? place.clamp(0, 1) : place.sub(place.floor())).colour('gradient');
  },
});
