import { Vec3, type Expr } from '@vast-swarm/kernel';
import { kindOf } from '../../sections';
import type { FinishContext, FinishKind } from '../../sections/kinds';
import type { Part } from '../../piece/types';
import { sharedDials } from '../../language/dialReader';
import { valuesOf } from '../../language/dials';
import { given } from '../../language/names';
import { bloomDials } from '../../sections/finish/bloom';
import { blurDials } from '../../sections/finish/blur';
import { finishDials } from '../../sections/finish/common';
import { treatmentReader } from '../readers';
import { KernelBuilder, KernelData } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import type { BlockTrack } from '../../language/track';
import type { PlanPart } from '../cache';
import type { Scene } from '../scene';
import { encode } from './encode';
import { maskAt } from './maskCoverage';
import { own, pixelOf, sampled, type Pixel, type Surface } from '../../language/pixel';
import { PLANES } from '../../language/planes';

/** Bloom's dials at a time. */
export interface Bloom {
  amount: number;
  threshold: number;
  radius: number;
}

/**
 * One step of the finish, in order. Kernels over pixels read and write the planes `r`, `g`, `b`;
 * those that look around read them and write `to.r`, `to.g`, `to.b`, which then take their place.
 * Others they may read: `was.*`, the planes at the last `keep`; `past.*`, what a `remember` of the
 * same id left in the frame before; `layer.*`, a swarm on a layer of its own; tables and blocks of
 * the finish. The last step writes the words of the finished frame to `out`.
 */
export type FinishStep =
  | { type: 'pixels'; kernel: PlanKernel; past?: string; layer?: string }
  | { type: 'around'; kernel: PlanKernel; passes: number; past?: string; layer?: string }
  | { type: 'keep' }
  | { type: 'remember'; id: string }
  | { type: 'bloom'; at: (time: number) => Bloom }
  /** Spreads light evenly about: the radius as a part of the frame's height. */
  | { type: 'blur'; radius: (time: number) => number };

export interface FinishPlan {
  steps: FinishStep[];
  /** Samples for the buffer `tables`, and larger things by the name of their buffer. */
  tables: Float32Array;
  blocks: ReadonlyMap<string, Float32Array>;
  /** Tracks that it reads, by the name of their buffer. */
  tracks: ReadonlyMap<string, BlockTrack>;
  /** Planes of media that it reads, see SwarmPlan. */
  fields: ReadonlyMap<string, number>;
  /** Whether a frame depends on the frames before it. */
  remembers: boolean;
}

/**
 * Whether all that a finish remembers is of the frame before `frame`, or of that frame itself.
 *
 * @param frameOf the frame that a treatment remembers, by its id
 */
export function knowsPast(
  plan: FinishPlan,
  frame: number,
  frameOf: (id: string) => number | undefined,
): boolean {
  return plan.steps.every((step) => {
    if (step.type !== 'remember' || frame <= 0) return true;
    const known = frameOf(step.id);
    return known === frame - 1 || known === frame;
  });
}

const WAS = PLANES.map((p) => `was.${p}`);
const PAST = PLANES.map((p) => `past.${p}`);
const LAYER = PLANES.map((p) => `layer.${p}`);
const TO = PLANES.map((p) => `to.${p}`);

export const finishPart: PlanPart<Scene, FinishPlan> = {
  name: 'finish',
  dependsOn: ({ piece, signalled, stocked }) => [
    piece.seed,
    piece.frame.rate,
    piece.finish,
    signalled,
    stocked,
    piece.frame.width / piece.frame.height,
    // Media are seen from the camera.
    ...(piece.media.length > 0 ? [piece.media, piece.camera] : []),
  ],
  make: (scene) => finishPlan(scene, false),
};

/** The same, and the planes have the light of the finished frame at the end. */
export const finishLightPart: PlanPart<Scene, FinishPlan> = {
  ...finishPart,
  name: 'finish light',
  make: (scene) => finishPlan(scene, true),
};

/** The finish chain: neighbours that look at single pixels share one kernel. */
function finishPlan(scene: Scene, light: boolean): FinishPlan {
  const data = new KernelData();
  const steps: FinishStep[] = [];
  let pending: Part[] = [];
  const flush = (last: boolean): void => {
    if (pending.length > 0 || last) {
      steps.push({ type: 'pixels', kernel: pixelsKernel(scene, data, pending, last) });
    }
    pending = [];
  };
  for (const part of scene.piece.finish.filter((p) => p.on)) {
    const kind: FinishKind = kindOf('finish', part.kind);
    if (kind.type === 'pixel' && kind.layer === undefined) {
      pending.push(part);
      continue;
    }
    flush(false);
    steps.push(...stepsOf(scene, data, part, kind));
  }
  // Else the last treatments and the words of the frame are one.
  if (light) flush(false);
  flush(true);
  return {
    steps,
    tables: Float32Array.from(data.samples),
    blocks: data.blocks,
    tracks: data.tracks,
    fields: data.fields,
    remembers: steps.some((s) => s.type === 'remember'),
  };
}

function stepsOf(scene: Scene, data: KernelData, part: Part, kind: FinishKind): FinishStep[] {
  const shows = kind.layer?.(part.dials) ?? null;
  const layer = shows === null ? {} : { layer: shows };
  switch (kind.type) {
    case 'pixel':
      return [{ type: 'pixels', kernel: pixelsKernel(scene, data, [part], false), ...layer }];
    case 'around': {
      const { passes = 1 } = kind;
      const past = kind.remembers ? { past: part.id } : {};
      const around = {
        type: 'around',
        kernel: aroundKernel(scene, data, part, kind),
        passes,
      } as const;
      return [
        ...(passes > 1 ? [{ type: 'keep' } as const] : []),
        { ...around, ...past, ...layer },
        ...(kind.remembers ? [{ type: 'remember', id: part.id } as const] : []),
      ];
    }
    case 'bloom': {
      const { amount, threshold, radius } = valuesOf(bloomDials, part.dials);
      const bloom = (time: number): Bloom => ({
        amount: scene.number(amount, time),
        threshold: scene.number(threshold, time),
        radius: scene.number(radius, time),
      });
      return mixedBack(scene, data, part, { type: 'bloom', at: bloom });
    }
    case 'blur': {
      const { radius } = valuesOf(blurDials, part.dials);
      const blur = (time: number): number => scene.number(radius, time);
      return mixedBack(scene, data, part, { type: 'blur', radius: blur });
    }
  }
}

/** A step that works on whole planes, of which a part is seen. */
function mixedBack(scene: Scene, data: KernelData, part: Part, step: FinishStep): FinishStep[] {
  const builder = new KernelBuilder(scene, data);
  const pixel = pixelOf(builder);
  const share = shareOf(builder, part, pixel);
  if (!share) return [step];
  const colour = Vec3.mix(own(builder, WAS), own(builder, PLANES), share);
  colour.parts.forEach((e, i) => builder.graph.store(PLANES[i]!, e));
  return [{ type: 'keep' }, step, { type: 'pixels', kernel: builder }];
}

/** How much of a treatment is seen; null: all of it, everywhere. */
function shareOf(builder: KernelBuilder, part: Part, pixel: Pixel): Expr | null {
  const dial = sharedDials(treatmentReader(builder, part), finishDials);
  const mask = maskAt(builder, dial, pixel);
  if (!mask && dial.raw('share') === 1) return null;
  const share = dial.number('share');
  return mask ? share.mul(mask) : share;
}

function contextOf(builder: KernelBuilder, part: Part, pixel: Pixel): FinishContext {
  const g = builder.graph;
  const past: Surface = {
    planes: PAST,
    width: g.uniform(given('past.width')),
    height: g.uniform(given('past.height')),
    stride: g.uniform(given('past.stride'), 'i32'),
  };
  return {
    dial: treatmentReader(builder, part),
    pixel,
    past: (u, v) => sampled(past, u.mul(past.width), v.mul(past.height)),
    layer: () => own(builder, LAYER),
    pass: g.uniform(given('pass')),
  };
}

function pixelsKernel(
  scene: Scene,
  data: KernelData,
  parts: readonly Part[],
  last: boolean,
): PlanKernel {
  const builder = new KernelBuilder(scene, data);
  const g = builder.graph;
  const pixel = pixelOf(builder);
  let colour = own(builder, PLANES);
  for (const part of parts) {
    const kind: FinishKind = kindOf('finish', part.kind);
    if (kind.type !== 'pixel') continue;
    const after = kind.build(contextOf(builder, part, pixel), colour);
    const share = shareOf(builder, part, pixel);
    colour = share ? Vec3.mix(colour, after, share) : after;
  }
  if (last) g.store('out', encode(colour, pixel));
  else colour.parts.forEach((e, i) => g.store(PLANES[i]!, e));
  return builder;
}

function aroundKernel(
  scene: Scene,
  data: KernelData,
  part: Part,
  kind: FinishKind & { type: 'around' },
): PlanKernel {
  const builder = new KernelBuilder(scene, data);
  const g = builder.graph;
  const pixel = pixelOf(builder);
  let colour = kind.build(contextOf(builder, part, pixel));
  const share = shareOf(builder, part, pixel);
  if (share) {
    const { passes = 1 } = kind;
    const before = own(builder, passes > 1 ? WAS : PLANES);
    // Only the last pass shows.
    const all = g.uniform(given('pass')).lt(passes - 1);
    colour = Vec3.mix(before, colour, all.select(g.float(1), share));
  }
  colour.parts.forEach((e, i) => g.store(TO[i]!, e));
  return builder;
}
