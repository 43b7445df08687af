import { kindOf } from '../../sections';
import { lampDials } from '../../sections/lights/lamp';
import { shadowDials } from '../../sections/lights/shadow';
import { valuesOf } from '../../language/dials';
import { Owner } from '../../language/names';
import { Vec3 } from '@vast-swarm/kernel';
import type { Vector } from '../../feeds/feeds';
import { meshDraw } from './draws/meshes';
import type { DrawContext } from './draws/context';
import { own } from '../../language/pixel';
import { PLANES } from '../../language/planes';
import { KernelBuilder } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import { towards } from './lamps';
import type { Scene } from '../scene';
import type { Part } from '../../piece/types';

const SHADOW = new Owner('shadow');

/** Values of the dials of a light that casts shadows. */
export function casterValues({ dials }: Part) {
  return { ...valuesOf(lampDials, dials), ...valuesOf(shadowDials, dials) };
}

/** The light that casts shadows, if any does. */
export function casterOf(scene: Scene): Part | null {
  const casts = (l: Part): boolean => l.on && (kindOf('lights', l.kind).casts?.(l.dials) ?? false);
  return scene.piece.lights.find(casts) ?? null;
}

/**
 * The mesh draw of a body pressed flat on the floor, along the way of the light (J. Blinn, "Me and My
 * (Fake) Shadow", IEEE CG&A 8(1), 1988).
 */
export function shadowDraw(context: DrawContext, caster: Part): ReturnType<typeof meshDraw> {
  const { builder, see } = context;
  const { scene } = builder;
  const values = casterValues(caster);
  const light = (time: number): Vector => {
    const angle = (key: 'azimuth' | 'elevation'): number => scene.number(values[key], time);
    // From the horizon or below a light reaches no floor.
    return towards(angle('azimuth'), Math.max(2, angle('elevation')));
  };
  const way = builder.vector(SHADOW.own('way'), [
    (f) => light(f.time)[0],
    (f) => light(f.time)[1],
    (f) => light(f.time)[2],
  ]);
  const floor = builder.uniform(SHADOW.own('floor'), (f) => scene.number(values.floor, f.time));
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
  const { shadow } = casterValues(caster);
  const strength = builder.uniform(SHADOW.own('strength'), (f) => scene.number(shadow, f.time));
  const dark = own(
    builder,
    PLANES.map((p) => `layer.${p}`),
  ).scale(strength);
  const light = own(builder, PLANES);
  const part = (k: 'x' | 'y' | 'z') => light[k].mul(g.float(1).sub(dark[k].clamp(0, 1)));
  [part('x'), part('y'), part('z')].forEach((e, i) => g.store(PLANES[i]!, e));
  return builder;
}
