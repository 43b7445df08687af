import { FRAME } from '../../language/names';
import { Vec3, type Expr } from '@vast-swarm/kernel';
import { KernelBuilder } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import type { PlanPart } from '../cache';
import type { Scene } from '../scene';
import { View } from '../../language/view';
import { frameSurface, own, pixelOf } from '../../language/pixel';
import { PLANES } from '../../language/planes';

/** Places around a pixel that are looked at. */
const TAPS = 22;
/** Turn from one to the next: the golden angle, which spreads them evenly over a disc (H. Vogel, 1979). */
const GOLDEN = Math.PI * (3 - Math.sqrt(5));
/** Farthest that light of solid things is spread, as a part of the frame's height. */
const FARTHEST = 0.03;

export const solidLensPart: PlanPart<Scene, PlanKernel> = {
  name: 'lens',
  dependsOn: ({ lens }) => lens,
  make: solidLensKernel,
};

/**
 * Out of focus for opaque things: each pixel gathers the light of those around it whose own circle
 * of confusion reaches it; what lies behind spreads no farther than what is there. Reads `r`, `g`,
 * `b` and `near` (metres), writes `to.r`, `to.g`, `to.b`.
 */
function solidLensKernel(scene: Scene): PlanKernel {
  const builder = new KernelBuilder(scene);
  const g = builder.graph;
  const view = new View(builder);
  const pixel = pixelOf(builder);
  const surface = frameSurface(builder);
  const focal = view.number('focal', (pose, height) => pose.focal * height);
  const most = builder.uniform(FRAME.own('lensMost'), (f) => f.height * FARTHEST);
  const spread = (depth: Expr): Expr => {
    const zoom = view.perspective ? focal.div(depth.max(1e-4)) : focal;
    return view.defocus(depth, zoom).min(most);
  };
  const depth = g.load('near', g.lane());
  const here = spread(depth);
  let sum = own(builder, PLANES);
  let weights = g.float(1);
  for (let i = 0; i < TAPS; i++) {
    const far = Math.sqrt((i + 0.5) / TAPS);
    const [dx, dy] = [Math.cos(i * GOLDEN) * far, Math.sin(i * GOLDEN) * far];
    const column = pixel.x
      .add(most.mul(dx))
      .floor()
      .clamp(0, 1e6)
      .min(surface.width.sub(1))
      .toInt();
    const row = pixel.y.add(most.mul(dy)).floor().clamp(0, 1e6).min(surface.height.sub(1)).toInt();
    const at = row.mul(surface.stride).add(column);
    const there = g.load('near', at);
    const reach = spread(there);
    // What is behind does not flow over what is in front of it.
    const limited = there.gt(depth).select(reach.min(here), reach);
    const weight = limited.sub(most.mul(far)).add(1).clamp(0, 1);
    const [r, green, b] = PLANES.map((p) => g.load(p, at));
    sum = sum.add(new Vec3(r!, green!, b!).scale(weight));
    weights = weights.add(weight);
  }
  const mean = sum.scale(g.float(1).div(weights));
  mean.parts.forEach((e, i) => g.store(`to.${PLANES[i]!}`, e));
  return builder;
}
