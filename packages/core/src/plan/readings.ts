import type { Swarm } from '../piece/schema';
import { KernelBuilder, type PlanKernel, type SwarmData } from './kernelBuilder';
import type { Scene } from './scene';
import { styled } from './styled';

/** What the readings kernel gives for files: diameter in metres, linear light, opacity. */
export const READINGS = ['size', 'red', 'green', 'blue', 'opacity'] as const;

export function readingsKernel(
  scene: Scene,
  swarm: Swarm,
  capacity: number,
  data: SwarmData,
): PlanKernel {
  const builder = new KernelBuilder(scene, data);
  const { size, opacity, colour } = styled(builder, swarm, capacity, null);
  const values = [size, ...colour.parts, opacity.clamp(0, 1)];
  values.forEach((e, i) => builder.graph.store(READINGS[i]!, e));
  return builder;
}
