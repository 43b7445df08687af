import { Vec3, type Expr } from '@vast-swarm/kernel';
import { kindOf } from '../../sections';
import type { EmitterKind } from '../../sections/kinds';
import type { Piece, Swarm } from '../../piece/types';
import type { BirthScope, KernelData } from '../../language/builder';
import type { ParticleInputs } from '../../language/particle';
import type { KernelBuilder } from '../../language/builder';
import { pushingOn } from '../../piece/pushing';

const AXES = ['x', 'y', 'z'] as const;

/**
 * Velocity with which a particle is seen to move, m/s over the last step: what carries a particle moves
 * it without being part of its own velocity. Kept in the state where a look or a field asks for it.
 */
export const SEEN = AXES.map((axis) => `seen.${axis}` as const);

/** Whether flows carry the swarm's particles. */
export function flowsCarry(piece: Piece, swarm: Swarm): boolean {
  return pushingOn(piece, swarm.id).some(({ part, kind }) => kind.carries?.(part.dials) ?? false);
}

/** Whether anything moves the swarm's particles that is not in their velocity. */
export function isCarried(piece: Piece, swarm: Swarm): boolean {
  const emitter: EmitterKind = kindOf('emitters', swarm.emitter.kind);
  return emitter.hold !== undefined || flowsCarry(piece, swarm);
}

/** Has the velocity that is seen kept in the state; at birth it is the particle's own. */
export function wantSeen({ kept }: KernelData): void {
  AXES.forEach((axis, i) => kept.set(SEEN[i]!, (birth: BirthScope) => birth.velocity[axis]));
}

/** The particle with the velocity that is seen, for what shows it. */
export function asSeen(builder: KernelBuilder, particle: ParticleInputs): ParticleInputs {
  const { data } = builder;
  const { readings, kept } = particle;
  if (!data.carried || !readings) return particle;
  // Asked for, not prepared: a look without any use for it keeps nothing.
  const velocity = (): Vec3 => {
    wantSeen(data);
    return new Vec3(kept!(SEEN[0]!), kept!(SEEN[1]!), kept!(SEEN[2]!));
  };
  const { age, life, position } = readings;
  const seen = {
    age,
    life,
    position,
    get velocity() {
      return velocity();
    },
  };
  return { ...particle, readings: seen };
}

/** Stores it, for a particle that went this way (m) in the step, if anything has asked. */
export function keepSeen(builder: KernelBuilder, way: Vec3, step: Expr): void {
  if (!builder.data.kept.has(SEEN[0]!)) return;
  const rate = builder.graph.float(1).div(step.max(1e-4));
  way.scale(rate).parts.forEach((part, i) => builder.graph.store(SEEN[i]!, part));
}
