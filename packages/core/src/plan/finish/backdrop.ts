import { backdropReader } from '../readers';
import { kindOf } from '../../sections';
import { KernelBuilder } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import type { PlanPart } from '../cache';
import type { Scene } from '../scene';
import { pixelOf } from '../../language/pixel';
import { PLANES } from '../../language/planes';

export const backdropPart: PlanPart<Scene, PlanKernel> = {
  name: 'backdrop',
  dependsOn: ({ piece, signalled, stocked }) => [
    piece.seed,
    piece.frame.rate,
    piece.backdrop,
    signalled,
    stocked,
  ],
  make: backdropKernel,
};

/** Nothing behind the bodies, and the same lit evenly: how much of it is left tells how much is covered. */
export const clearPart: PlanPart<Scene, Record<'dark' | 'lit', PlanKernel>> = {
  name: 'clear',
  dependsOn: () => [],
  make: (scene) => ({ dark: evenKernel(scene, 0), lit: evenKernel(scene, 1) }),
};

function evenKernel(scene: Scene, light: number): PlanKernel {
  const builder = new KernelBuilder(scene);
  for (const plane of PLANES) builder.graph.store(plane, builder.graph.float(light));
  return builder;
}

/** Fills the frame's planes. */
function backdropKernel(scene: Scene): PlanKernel {
  const builder = new KernelBuilder(scene);
  const { backdrop } = scene.piece;
  const kind = kindOf('backdrops', backdrop.kind);
  const colour = kind.build(backdropReader(builder, backdrop), pixelOf(builder));
  colour.parts.forEach((e, i) => builder.graph.store(PLANES[i]!, e));
  return builder;
}
