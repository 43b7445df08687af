import { READINGS } from '../plan/look/fileReadings';
import { STATE } from '../language/particle';

/** One array of all slots of a swarm for each quantity, in metres, m/s, seconds and linear light. */
export type Particles = Record<(typeof STATE)[number] | (typeof READINGS)[number], Float32Array>;

/** The particles of a swarm by what an engine gives for a name. */
export function particlesOf(read: (name: string) => Float32Array): Particles {
  return Object.fromEntries([...STATE, ...READINGS].map((n) => [n, read(n)])) as Particles;
}
