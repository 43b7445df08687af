import { Vec3 } from '@vast-swarm/kernel';
import type { Vector } from '../feeds/feeds';
import type { Drawn } from './plan';
import { meshDraw } from './draws/meshes';
import type { DrawContext } from './draws';
import { own } from './finish/pixel';
import { PLANES } from './finish/planes';
import { KernelBuilder, type PlanKernel } from './kernelBuilder';
import { towards } from './lamps';
import type { Scene } from './scene';
import type { Part } from '../piece/schema';

/** Shadows of mesh copies on a floor: drawn apart, softened, and taken from the backdrop's light. */
export interface ShadowPlan {
  drawing: readonly Drawn[];
  /** As a part of the frame's height. */
  blur: (time: number) => number;
  /** Takes the planes `layer.*`, times the shadow's strength, from the light of `r`, `g`, `b`. */
  shade: PlanKernel;
}

/** The light that casts shadows, if any does. */
export function casterOf(scene: Scene): Part | null {
  const casts = (l: Part): boolean => l.on && l.kind === 'key' && l.dials.shadow !== 0;
  return scene.piece.lights.find(casts) ?? null;
}

/**
 * The mesh draw of a body pressed flat on the floor, along the way of the light (J. Blinn, "Me and My
 * (Fake) Shadow", IEEE CG&A 8(1), 1988).
 */
export function shadowDraw(context: DrawContext, caster: Part): ReturnType<typeof meshDraw> {
  const { builder, see } = context;
  const { scene } = builder;
  const light = (time: number): Vector => {
    const angle = (key: string): number => scene.number(caster.dials[key], time);
    // From the horizon or below a light reaches no floor.
    return towards(angle('azimuth'), Math.max(2, angle('elevation')));
  };
  const way = builder.vector('shadow.way', [
    (f) => light(f.time)[0],
    (f) => light(f.time)[1],
    (f) => light(f.time)[2],
  ]);
  const floor = builder.uniform('shadow.floor', (f) => scene.number(caster.dials.floor, f.time));
  const flat = (v: Vec3): Vec3 => v.sub(way.scale(v.y.div(way.y)));
  const zero = builder.graph.float(0);
  const ground = new Vec3(zero, floor, zero);
  const onFloor = flat(see.position.sub(ground)).add(ground);
  const turned = (v: Vec3): Vec3 => flat(see.turned(v));
  return meshDraw({ ...context, see: { ...see, position: onFloor, turned } });
}

/** Takes the shadow's planes from the light of the frame's. */
export function shadeKernel(scene: Scene, caster: Part): PlanKernel {
  const builder = new KernelBuilder(scene);
  const g = builder.graph;
  const strength = builder.uniform('shadow.strength', (f) =>
    scene.number(caster.dials.shadow, f.time),
  );
  const dark = own(
    builder,
    PLANES.map((p) => `layer.${p}`),
  ).scale(strength);
  const light = own(builder, PLANES);
  const part = (k: 'x' | 'y' | 'z') => light[k].mul(g.float(1).sub(dark[k].clamp(0, 1)));
  [part('x'), part('y'), part('z')].forEach((e, i) => g.store(PLANES[i]!, e));
  return builder;
}
