import type { Vec3 } from '@vast-swarm/kernel';
import type { KernelBuilder } from '../../language/builder';
import type { ParticleInputs } from '../../language/particle';

/** A cell as forces and colliders see it: a particle that is born there in the middle of the step. */
export function cellParticle(
  { graph: g }: KernelBuilder,
  medium: string,
  position: Vec3,
  velocity = position.scale(0),
): ParticleInputs {
  const none = g.float(0);
  return {
    swarm: medium,
    id: g.lane(),
    life: null,
    born: g.float(0.5),
    readings: { age: none, life: g.float(1), position, velocity },
  };
}
