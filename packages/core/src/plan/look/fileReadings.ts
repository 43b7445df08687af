import type { Swarm } from '../../piece/types';
import { KernelBuilder, type KernelData } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import type { Scene } from '../scene';
import { appearance } from './appearance';

/** Outputs of the readings kernel for files: diameter in metres, linear light, opacity. */
export const READINGS = ['size', 'red', 'green', 'blue', 'opacity'] as const;

export function readingsKernel(
  scene: Scene,
  swarm: Swarm,
  capacity: number,
  data: KernelData,
): PlanKernel {
  const builder = new KernelBuilder(scene, data);
  const { size, opacity, colour } = appearance(builder, swarm, capacity, null, null);
  const values = [size, ...colour.parts, opacity.clamp(0, 1)];
  values.forEach((e, i) => builder.graph.store(READINGS[i]!, e));
  return builder;
}
