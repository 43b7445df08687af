import { kindOf } from '../../catalogue';
import { DialReader } from '../dialReader';
import { KernelBuilder, type PlanKernel } from '../kernelBuilder';
import type { Scene } from '../scene';
import { pixelOf } from './pixel';
import { PLANES } from './planes';

/** Fills the frame's planes. */
export function backdropKernel(scene: Scene): PlanKernel {
  const builder = new KernelBuilder(scene);
  const { kind, dials } = scene.piece.backdrop;
  const backdrop = kindOf('backdrops', kind);
  const reader = new DialReader(builder, 'backdrop', backdrop.dials, dials);
  const colour = backdrop.build(reader, pixelOf(builder));
  colour.parts.forEach((e, i) => builder.graph.store(PLANES[i]!, e));
  return builder;
}
