import type { Expr } from '@vast-swarm/kernel';
import type { Effect, Moving } from '../../../sections/kinds';
import type { KernelBuilder } from '../../../language/builder';
import type { ParticleInputs } from '../../../language/particle';
import { placementOf } from '../../../language/placement';
import type { Part } from '../../../piece/types';
import { bodyOf } from './solid';

/** Effect of a zone in the step; `dies` where it kills. */
export function zoneEffect(
  builder: KernelBuilder,
  part: Part,
  particle: ParticleInputs,
  { position, start }: Pick<Moving, 'position' | 'start'>,
): { effect: Effect; dies: Expr | null } {
  const body = bodyOf(builder, part, particle);
  if (!body) return { effect: {}, dies: null };
  const { dial, surface } = body;
  const placement = placementOf(dial);
  // Distances count up on the side that the zone acts on.
  if (dial.choice('does') === 'die') {
    return { effect: {}, dies: surface(placement.placeBack(start)).distance.gt(0) };
  }
  const { distance, normal } = surface(placement.placeBack(position));
  const weight = distance.div(dial.number('soft').max(1e-5)).clamp(0, 1);
  const strength = dial.number('strength').mul(weight);
  if (dial.choice('does') === 'slow') return { effect: { drag: strength }, dies: null };
  // Out of the zone: against the way that leads further into it.
  const out = placement.direction(normal.scale(-1));
  return { effect: { push: out.scale(strength) }, dies: null };
}
