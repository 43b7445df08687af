import type { GpuEngine } from '@vast-swarm/gpu';
import type { BareDevice } from './bareDevice';

/** One particle after the other, as a program with a single kind of them lays it out. */
export const PARTICLE = /* wgsl */ `
struct Particle { place: vec3f, age: f32, velocity: vec3f, life: f32, drift: vec3f, phase: f32 }
`;

const ORDER = [
  'px',
  'py',
  'pz',
  'age',
  'vx',
  'vy',
  'vz',
  'life',
  'drift.x',
  'drift.y',
  'drift.z',
  'phase',
];

/** The first swarm's particles as the engine has them now; what it does not keep is 0. */
export async function particlesByHand(
  bare: BareDevice,
  engine: GpuEngine,
  kept: readonly string[],
): Promise<GPUBuffer> {
  let all = new Float32Array();
  for (const [at, name] of ORDER.entries()) {
    if (!kept.includes(name)) continue;
    const values = await engine.readState('swarm', name);
    if (all.length === 0) all = new Float32Array(ORDER.length * values.length);
    values.forEach((v, i) => (all[i * ORDER.length + at] = v));
  }
  return bare.storage(all);
}

/** Throws where a place is not the same in both layouts, to a tenth of a millimetre. */
export async function placesAgree(
  bare: BareDevice,
  engine: GpuEngine,
  particles: GPUBuffer,
): Promise<void> {
  const found = new Float32Array(await bare.read(particles));
  for (const [at, name] of ['px', 'py', 'pz'].entries()) {
    const values = await engine.readState('swarm', name);
    values.forEach((value, i) => {
      const other = found[i * ORDER.length + at]!;
      if (Math.abs(value - other) < 1e-4) return;
      throw new Error(`${name} of ${String(i)} is ${String(value)}, by hand ${String(other)}`);
    });
  }
}
