import { Vec3, type Expr } from '@vast-swarm/kernel';
import { kindOf } from '../catalogue';
import type { EmitterKind } from '../catalogue/kinds';
import { swarmDials } from '../catalogue/swarmDials';
import type { Swarm } from '../piece/schema';
import { DialReader, type ParticleInputs } from './dialReader';
import { KernelBuilder, type PlanKernel, type SwarmData } from './kernelBuilder';
import type { Scene } from './scene';
import { livingParticle, loadVec } from './state';

/**
 * What the look kernel gives to the drawing: place and radius in pixels (radius 0: not drawn),
 * light already multiplied by opacity, opacity, and distance along the view in metres.
 */
export const DRAWN = ['sx', 'sy', 'sr', 'cr', 'cg', 'cb', 'ca', 'depth'] as const;

/** Discs are drawn no smaller than this radius in pixels; a smaller one is dimmed instead. */
export const SMALLEST = 1.4;

/** How a particle looks at this moment: diameter in metres, opacity, linear light. */
interface Styled {
  size: Expr;
  opacity: Expr;
  colour: Vec3;
  alive: Expr;
}

function styled(builder: KernelBuilder, swarm: Swarm, capacity: number): Styled {
  const g = builder.graph;
  const age = g.load('age', g.lane());
  const life = g.load('life', g.lane());
  const particle = livingParticle(builder, swarm.id, capacity, age);
  const placeColour = colourOfPlace(builder, swarm, particle);
  const dial = new DialReader(builder, `${swarm.id}.swarm`, swarmDials, swarm.dials, {
    ...particle,
    placeColour,
  });
  return {
    size: dial.number('size'),
    opacity: dial.number('opacity').clamp(0, 1),
    colour: dial.colour('colour').scale(dial.number('light')),
    alive: age.ge(0).and(age.lt(life)),
  };
}

function colourOfPlace(
  builder: KernelBuilder,
  swarm: Swarm,
  particle: ParticleInputs,
): Vec3 | null {
  const emitter: EmitterKind = kindOf('emitters', swarm.emitter.kind);
  const { colour } = swarm.dials;
  const wanted = typeof colour === 'object' && 'feed' in colour && colour.feed === 'place';
  if (!emitter.colour || !wanted) return null;
  const { dials } = swarm.emitter;
  const reader = new DialReader(builder, `${swarm.id}.emitter`, emitter.dials, dials, particle);
  return emitter.colour(reader);
}

/** What the readings kernel gives for files: diameter in metres, linear light, opacity. */
export const READINGS = ['size', 'red', 'green', 'blue', 'opacity'] as const;

export function readingsKernel(
  scene: Scene,
  swarm: Swarm,
  capacity: number,
  data: SwarmData,
): PlanKernel {
  const builder = new KernelBuilder(scene, data);
  const { size, opacity, colour } = styled(builder, swarm, capacity);
  [size, ...colour.parts, opacity].forEach((e, i) => builder.graph.store(READINGS[i]!, e));
  return builder;
}

/**
 * From state to what is drawn. Never touches the state: restyling needs no new simulation. Where the
 * swarm is repeated the engine runs it once for each repeat, with the uniforms `copy.0` to `copy.11`
 * (see copies.ts) and `copy.scale`.
 */
export function lookKernel(
  scene: Scene,
  swarm: Swarm,
  capacity: number,
  data: SwarmData,
): PlanKernel {
  const builder = new KernelBuilder(scene, data);
  const g = builder.graph;
  const look = styled(builder, swarm, capacity);
  const repeated = swarm.copies.some((c) => c.count > 1);
  const position = repeated ? repeat(builder, loadVec(builder, 0)) : loadVec(builder, 0);
  const size = repeated ? look.size.mul(g.uniform('copy.scale')) : look.size;

  // The camera comes with each frame, so that moving it changes no kernel.
  const pose = (part: 'eye' | 'right' | 'up' | 'forward'): Vec3 =>
    builder.vector(`camera.${part}`, [
      (f) => f.camera![part][0],
      (f) => f.camera![part][1],
      (f) => f.camera![part][2],
    ]);
  const offset = position.sub(pose('eye'));
  const depth = offset.dot(pose('forward'));
  const focal = builder.uniform('focal', (f) => f.camera!.focal * f.height);
  const zoom = focal.div(depth.max(1e-4));
  const near = builder.uniform('near', (f) => f.camera!.near);
  const fade = depth.div(near).sub(0.5).clamp(0, 1);

  const radius = size.mul(zoom).mul(0.5);
  const drawn = radius.max(SMALLEST);
  const dim = radius.div(drawn);
  const opacity = look.opacity.mul(dim).mul(dim).mul(fade);
  const seen = look.alive.and(depth.gt(1e-3)).and(opacity.gt(1e-6));
  const colour = look.colour.scale(opacity);
  const half = (side: 'width' | 'height'): Expr =>
    builder.uniform(`half.${side}`, (f) => f[side] / 2);
  g.store('sx', half('width').add(offset.dot(pose('right')).mul(zoom)));
  g.store('sy', half('height').sub(offset.dot(pose('up')).mul(zoom)));
  g.store('sr', seen.select(drawn, g.float(0)));
  g.store('cr', colour.x);
  g.store('cg', colour.y);
  g.store('cb', colour.z);
  g.store('ca', opacity);
  g.store('depth', depth);
  return builder;
}

function repeat(builder: KernelBuilder, p: Vec3): Vec3 {
  const cell = (i: number): Expr => builder.graph.uniform(`copy.${String(i)}`);
  const row = (i: number): Expr =>
    new Vec3(cell(4 * i), cell(4 * i + 1), cell(4 * i + 2)).dot(p).add(cell(4 * i + 3));
  return new Vec3(row(0), row(1), row(2));
}
