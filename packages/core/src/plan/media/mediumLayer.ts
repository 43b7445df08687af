import { laidOver } from '../../sections/finish/common';
import { fluidDials } from '../../sections/media/dials';
import { seenDials, seenLight } from '../../sections/media/seen';
import { KernelBuilder, KernelData } from '../../language/builder';
import { valuesOf } from '../../language/dials';
import type { PlanKernel } from '../../language/frame';
import { own, pixelOf } from '../../language/pixel';
import { PLANES } from '../../language/planes';
import { sharedDials } from '../../language/dialReader';
import type { Part } from '../../piece/types';
import type { PlanPart } from '../cache';
import { mediumReader } from '../readers';
import type { Scene } from '../scene';

/** Media that are seen in the scene itself, in the order of the line-up. */
export interface MediumLayers {
  /** Lay one over the light of `r`, `g`, `b`: behind all bodies, and before all. */
  behind: readonly PlanKernel[];
  before: readonly PlanKernel[];
  /** See SwarmPlan. */
  tables: Float32Array;
  fields: ReadonlyMap<string, number>;
}

export const mediumLayersPart: PlanPart<Scene, MediumLayers> = {
  name: 'medium layers',
  dependsOn: ({ piece, signalled, lens }) => [
    piece.seed,
    piece.frame.rate,
    piece.media,
    signalled,
    ...(piece.media.length > 0 ? [piece.camera, lens] : []),
    piece.frame.width / piece.frame.height,
  ],
  make(scene) {
    const data = new KernelData();
    const layers = (where: 'behind' | 'before'): PlanKernel[] =>
      scene.piece.media
        .filter((m) => m.on && valuesOf(fluidDials, m.dials).shown === where)
        .map((part) => layer(scene, data, part));
    const [behind, before] = [layers('behind'), layers('before')];
    return { behind, before, tables: Float32Array.from(data.samples), fields: data.fields };
  },
};

function layer(scene: Scene, data: KernelData, part: Part): PlanKernel {
  const builder = new KernelBuilder(scene, data);
  const dial = mediumReader(builder, part);
  const space = scene.medium(part.id)!;
  const light = seenLight(sharedDials(dial, seenDials), space, pixelOf(builder));
  const colour = laidOver(dial.choice('over'), own(builder, PLANES), light);
  colour.parts.forEach((e, i) => builder.graph.store(PLANES[i]!, e));
  return builder;
}
