import { backdropReader } from '../readers';
import { kindOf } from '../../catalogue';
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

/** Fills the frame's planes. */
function backdropKernel(scene: Scene): PlanKernel {
  const builder = new KernelBuilder(scene);
  const { backdrop } = scene.piece;
  const kind = kindOf('backdrops', backdrop.kind);
  const colour = kind.build(backdropReader(builder, backdrop), pixelOf(builder));
  colour.parts.forEach((e, i) => builder.graph.store(PLANES[i]!, e));
  return builder;
}
