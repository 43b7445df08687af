import { KernelBuilder, type KernelData } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import { MediumPlane } from '../../language/mediumPlane';
import type { MediumSpace } from '../../language/mediumSpace';
import { loadVec } from '../../language/state';
import type { Swarm } from '../../piece/types';
import { swarmReader } from '../readers';
import { appearance } from '../look/appearance';
import type { Scene } from '../scene';

/** A particle's gift to a medium: its place in cells, its velocity along the plane, its light, and the share of all. */
export const GIVEN = ['x', 'y', 'u', 'v', 'red', 'green', 'blue', 'share'] as const;

/** Where nothing is given: far from all cells. */
const NOWHERE = -1e6;

/** Over slots: what each particle gives to a medium, as the frame before left it, in `give.…`. */
export function giveKernel(
  scene: Scene,
  swarm: Swarm,
  space: MediumSpace,
  capacity: number,
  data: KernelData,
): PlanKernel {
  const builder = new KernelBuilder(scene, data);
  const g = builder.graph;
  const look = appearance(builder, swarm, capacity, null, null);
  const plane = new MediumPlane(builder, space);
  const { x, y, scale, near } = plane.spotOf(loadVec(builder, 0));
  const there = look.alive.and(near);
  const { x: u, y: v } = plane.along(look.particle.readings!.velocity.scale(scale));
  const light = look.colour.scale(look.opacity.clamp(0, 1));
  const values = { x: there.select(x, NOWHERE), y, u, v };
  const share = swarmReader(builder, swarm, look.particle).number('stirs');
  const all = { ...values, red: light.x, green: light.y, blue: light.z, share };
  for (const name of GIVEN) g.store(`give.${name}`, all[name]);
  return builder;
}
