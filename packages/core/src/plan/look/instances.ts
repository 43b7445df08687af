import { bodyDials } from '../../sections/swarms/bodies/common';
import { meshDials } from '../../sections/swarms/bodies/mesh';
import { KernelBuilder, type KernelData } from '../../language/builder';
import { sharedDials } from '../../language/dialReader';
import type { PlanKernel } from '../../language/frame';
import type { Part, Swarm } from '../../piece/types';
import { bodyReader } from '../readers';
import type { Scene } from '../scene';
import { appearance } from './appearance';
import { axesOf } from './draws/meshes';

/**
 * Outputs of the kernel of a mesh body's copies for files: the three axes of each in metres (the mesh's longest side is 1),
 * where the swarm is simulated; linear light and opacity.
 */
export const INSTANCE = [
  ...(['xx', 'xy', 'xz', 'yx', 'yy', 'yz', 'zx', 'zy', 'zz'] as const),
  ...(['ir', 'ig', 'ib', 'io'] as const),
];

export function instancesKernel(
  scene: Scene,
  swarm: Swarm,
  body: Part,
  capacity: number,
  data: KernelData,
): PlanKernel {
  const builder = new KernelBuilder(scene, data);
  const look = appearance(builder, swarm, capacity, null, null);
  const reader = bodyReader(builder, swarm.id, body, look.particle);
  const common = sharedDials(reader, bodyDials);
  const dial = sharedDials(reader, meshDials);
  const size = look.size.mul(common.number('scale'));
  const velocity = () => look.particle.readings!.velocity;
  const axes = axesOf(builder, { dial: common, velocity, age: look.age });
  const sides = (['wide', 'high', 'deep'] as const).map((key) => size.mul(dial.number(key)));
  const values = [
    ...axes.flatMap((axis, i) => axis.scale(sides[i]!).parts),
    ...look.colour.scale(common.number('gain')).parts,
    look.opacity.mul(common.number('cover')).clamp(0, 1),
  ];
  values.forEach((e, i) => builder.graph.store(INSTANCE[i]!, e));
  return builder;
}
