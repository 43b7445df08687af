import { pow, type Expr } from '@vast-swarm/kernel';
import { sharedDials } from '../../language/dialReader';
import type { PartReader } from '../../language/partReader';
import { number } from '../../language/dials';

/** Dials of forces that grow weaker with the distance from something. */
export const falloffDials = {
  radius: number('Radius', 2, [0.001, 1000], 'Where it has fallen to a half, or less far.', {
    unit: 'm',
    drag: 'log',
  }),
  falloff: number(
    'Falloff',
    2,
    [0, 8],
    'How fast it falls; below 1 it never falls as far, and 0 is the same everywhere.',
  ),
};

/** 1 in the middle; at the radius a half, or 1 / (1 + falloff) where that is below 1. */
export function falloffWeight(part: PartReader, distance: Expr): Expr {
  const dial = sharedDials(part, falloffDials);
  const falloff = dial.number('falloff');
  const far = distance.div(dial.number('radius')).max(1e-6);
  return dial.graph.float(1).div(pow(far, falloff).mul(falloff.min(1)).add(1));
}
