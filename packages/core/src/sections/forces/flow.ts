import type { Expr, Vec3 } from '@vast-swarm/kernel';
import { sharedDials } from '../../language/dialReader';
import type { PartReader } from '../../language/partReader';
import type { Effect } from '../kinds';
import { choice, number, type ValuesOf } from '../../language/dials';

/** Dials of forces that are flows: how they take hold of a particle. */
export function flowDials(acts: 'carry' | 'push') {
  return {
    acts: choice(
      'Takes hold by',
      acts,
      { carry: 'Carrying', push: 'Pushing' },
      'Carrying moves the place and leaves the speed; pushing speeds up until the flow is met.',
      { group: 'Hold' },
    ),
    grip: number('Grip', 2, [0, 1000], 'When pushing: how soon the flow is met.', {
      unit: '1/s',
      varies: 'life',
      group: 'Hold',
      when: { dial: 'acts', is: ['push'] },
    }),
  };
}

const shared = flowDials('carry');

/** Whether a force moves places without being part of their velocity. */
export function carries(dials: Pick<ValuesOf<typeof shared>, 'acts'>): boolean {
  return dials.acts === 'carry';
}

/** A flow's effect: `flow` in m/s, and the way it carries in one step, where that is known better. */
export function flowEffect(part: PartReader, flow: Vec3, step: Expr, way?: Vec3): Effect {
  const dial = sharedDials(part, shared);
  if (dial.choice('acts') === 'carry') return { carry: way ?? flow.scale(step) };
  const grip = dial.number('grip');
  return { push: flow.scale(grip), drag: grip };
}
