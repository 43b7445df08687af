import { Vec3, type Fractal, type Phase } from '@vast-swarm/kernel';
import { sharedDials } from '../../language/dialReader';
import type { PartReader } from '../../language/partReader';
import { gone, swing } from '../../feeds/loop';
import type { Moving } from '../kinds';
import { number, vector } from '../../language/dials';

/** Dials that every force made of noise has. */
export function noiseDials(strength: number, unit: string) {
  return {
    strength: number('Strength', strength, [-1000, 1000], 'Root mean square of one octave.', {
      unit,
      varies: 'life',
    }),
    scale: number('Scale', 1.5, [0.001, 1000], 'Size of the largest swirls.', {
      unit: 'm',
      drag: 'log',
    }),
    octaves: number('Octaves', 2, [1, 8], 'Layers of ever finer swirls.', { whole: true }),
    persistence: number('Persistence', 0.5, [0, 1], 'Strength of each finer layer.'),
    change: number('Change', 0.3, [0, 100], 'How fast the field turns into another.', {
      unit: '/s',
      varies: 'never',
    }),
    axes: vector('Along axes', [1, 1, 1], 10, '', 'One strength for each axis of the world.'),
  };
}

const shared = noiseDials(0, '');

export interface NoisePlace {
  point: Vec3;
  phase: Phase;
  sum: Fractal;
}

/** Where and when the field is read: the place in swirls, and the turn of its lattice. */
export function noisePlace(part: PartReader, particle: Moving): NoisePlace {
  const dial = sharedDials(part, shared);
  const g = dial.graph;
  const change = dial.plain('change');
  // The turn alone would bring the field back after a while; a slow slant through it does not.
  const { period } = dial;
  const angle = (t: number): number => 2 * Math.PI * (gone(change * 0.25, t, period) % 1);
  const along = (t: number): number => (period === null ? t : swing(t, period));
  const slant = dial.changing('slant', (t) => change * along(t) * 0.11);
  const point = particle.position.scale(g.float(1).div(dial.number('scale')));
  return {
    point: point.add(new Vec3(slant, slant.mul(0.618), slant.mul(-0.382))),
    phase: {
      cos: dial.changing('cos', (t) => Math.cos(angle(t))),
      sin: dial.changing('sin', (t) => Math.sin(angle(t))),
    },
    sum: { octaves: dial.whole('octaves'), persistence: dial.number('persistence') },
  };
}
