import { exp, Vec3, type Expr, type Graph } from '@vast-swarm/kernel';
import { kindOf } from '../../sections';
import { longestLife } from '../../sections/swarms/swarmDials';
import type { Effect, EmitterKind, FieldReading, Moving } from '../../sections/kinds';
import { scaled } from '../../sections/forces/region';
import type { Part, Piece, Swarm } from '../../piece/types';
import { meetSolids, type Free } from './contact/contacts';
import { zoneEffect } from './contact/zone';
import { fieldReading } from '../fields/fieldCells';
import { FRAME, SWARM } from '../../language/names';
import { emitterReader, partReader, swarmReader } from '../readers';
import type { ParticleInputs } from '../../language/particle';
import { wantsWay } from './history';
import { pushingOn } from '../../piece/pushing';
import { KernelBuilder, type KernelData } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import { feltOf } from './felt';
import { integrals } from './integrals';
import { neighbours } from './neighbourGrid';
import { givingWay } from '../../feeds/loop';
import { placementOf } from '../../language/placement';
import type { Scene, SceneBuilder } from '../scene';
import { flowsCarry, keepSeen } from './seenVelocity';
import { idInSlot, livingParticle, loadVec } from '../../language/state';
import { STATE } from '../../language/particle';

/** How many particles a swarm has room for. */
interface Room {
  /** Slots: a multiple of four. */
  capacity: number;
  /** Most that are alive at once, where a limit holds them; the oldest then go early. */
  held: number | null;
}

export interface MotionPlan {
  motion: PlanKernel;
  /** Side of the grid's cells in metres, where anything looks at neighbours. */
  grid: number | null;
}

/**
 * One step of motion. Within the step acceleration a and drag k are constant, and the equation
 * v' = a - k v is solved exactly: v = v0 e^(-kh) + a φ1 and x = x0 + v0 φ1 + a φ2 with
 * φ1 = (1 - e^(-kh)) / k and φ2 = (h - φ1) / k (exponential integrator: M. Hochbruck,
 * A. Ostermann, "Exponential integrators", Acta Numerica 2010).
 */
export function motionKernel(
  scene: Scene,
  swarm: Swarm,
  { capacity, held: most }: Room,
  data: KernelData,
): MotionPlan {
  const { piece } = scene;
  const builder = new KernelBuilder(scene, data);
  const g = builder.graph;
  const dt = builder.uniform(FRAME.own('step'), 1 / scene.rate);
  const age = g.load('age', g.lane());
  const life = g.load('life', g.lane());
  const after = ageAfter(builder, swarm, age, dt);
  const step = age.lt(0).select(after.max(0), dt);
  const [position, velocity] = [loadVec(builder, 0), loadVec(builder, 3)];
  const particle: ParticleInputs = livingParticle(builder, swarm.id, capacity, after);
  const own = swarmReader(builder, swarm, particle);

  const sight = sightOf(piece, swarm);
  // Kept to look half a step ahead.
  const drift = flowsCarry(piece, swarm)
    ? own.keepVec('drift', ({ position: { x } }) => nowhere(x.graph))
    : null;
  // Forces are read half a step ahead, where the particle is about to be: a push in the middle of the
  // step keeps orbits and swings as they are (Verlet's method; Hairer, Lubich and Wanner 2006, I.1).
  const heading = drift ? velocity.add(drift) : velocity;
  const moving: Omit<Moving, 'field'> = {
    position: position.add(heading.scale(step.mul(0.5))),
    start: position,
    velocity,
    step,
    age,
    time: own.time(),
    home: () => own.keepVec('home', (birth) => birth.position),
    near: () => neighbours(builder, position, velocity, capacity, sight!),
  };
  const effects = forcesOf(scene, swarm, builder, particle, moving);
  let dies: Expr | null = null;
  for (const part of piece.colliders.filter((c) => c.on && c.dials.acts === 'zone')) {
    const zone = zoneEffect(builder, part, particle, moving);
    const felt = feltOf(builder, part, swarm.id);
    effects.push(scaled(zone.effect, felt));
    const kills = zone.dies?.and(felt.gt(0)) ?? null;
    dies = kills && dies ? kills.or(dies) : (kills ?? dies);
  }
  if (most !== null && most < capacity) {
    const first = builder.uniform(SWARM.own('first'), (f) => f.born - most, 'i32');
    const early = idInSlot(builder, capacity).lt(first);
    dies = dies?.or(early) ?? early;
  }
  const { period } = scene;
  if (period !== null && swarm.dials.lasts === 'ever') {
    const over = after.ge(period + givingWay(period));
    dies = dies?.or(over) ?? over;
  }
  const free = integrate(effects, own, swarm, { position, velocity, step });
  if (drift) {
    const rate = g.float(1).div(step.max(1e-4));
    const names = ['drift.x', 'drift.y', 'drift.z'] as const;
    const { parts } = (free.carry ?? nowhere(g)).scale(rate);
    names.forEach((name, i) => g.store(name, parts[i]!));
  }
  const held = holdOf(builder, swarm, particle, moving, free.position);
  const solids = piece.colliders.filter((c) => c.on && c.dials.acts === 'solid');
  const felt = (part: Part): Expr => feltOf(builder, part, swarm.id).gt(0);
  const start = { builder, particle, from: { position, velocity }, step, felt };
  const moved = meetSolids(start, solids, { position: held, velocity: free.velocity });
  if (moved.dies) dies = dies?.or(moved.dies) ?? moved.dies;
  let [place, speed] = [moved.position, moved.velocity];
  if (moved.sticks) {
    const stuck = own.keep('held', (birth) => birth.position.x.graph.float(0)).gt(0.5);
    place = Vec3.select(stuck, position, place);
    speed = Vec3.select(stuck, velocity.scale(0), speed);
    g.store('held', stuck.or(moved.sticks).select(1, g.float(0)));
  }
  place.parts.forEach((e, i) => g.store(STATE[i]!, e));
  speed.parts.forEach((e, i) => g.store(STATE[3 + i]!, e));
  keepSeen(builder, place.sub(position), step);
  if (wantsWay(swarm)) {
    const way = own.keep('way', (birth) => birth.position.x.graph.float(0));
    g.store('way', way.add(place.sub(position).length()));
  }
  g.store('age', after);
  if (dies) g.store('life', dies.select(life.min(after.max(0)), life));
  return { motion: builder, grid: sight };
}

/** Seconds; what lives longer counts its frames, as thousands of sums would add their rounding up. */
const LONG = 30;

function ageAfter(builder: KernelBuilder, swarm: Swarm, age: Expr, dt: Expr): Expr {
  if (longestLife(swarm.dials) <= LONG) return age.add(dt);
  builder.data.kept.set('phase', (birth) => birth.age);
  const phase = builder.graph.load('phase', builder.graph.lane());
  const frames = age.sub(phase).mul(builder.scene.rate).nearest();
  return phase.add(frames.add(1).mul(dt));
}

const nowhere = (g: Graph): Vec3 => new Vec3(g.float(0), g.float(0), g.float(0));

/** How far the farthest-seeing force looks, in metres; null where none looks at neighbours. */
export function sightOf(piece: Piece, swarm: Swarm): number | null {
  const radii = pushingOn(piece, swarm.id).flatMap(
    ({ part, kind }) => kind.sight?.(part.dials) ?? [],
  );
  return radii.length > 0 ? Math.max(...radii) : null;
}

function forcesOf(
  { piece }: Scene,
  swarm: Swarm,
  builder: SceneBuilder,
  particle: ParticleInputs,
  moving: Omit<Moving, 'field'>,
): Effect[] {
  return pushingOn(piece, swarm.id).map(({ part, kind, list }) => {
    const reader = partReader(builder, list, part, particle);
    const felt = feltOf(builder, part, swarm.id);
    const field = (): FieldReading => fieldReading(builder, part, kind.field!, reader);
    return scaled(kind.build(reader, { ...moving, field }), felt);
  });
}

/** Place and velocity at the end of the step, before anything solid is met. */
function integrate(
  effects: readonly Effect[],
  own: ReturnType<typeof swarmReader>,
  swarm: Swarm,
  { position, velocity, step }: Free & { step: Expr },
): Free & { carry?: Vec3 } {
  const g = step.graph;
  const sum = <T>(get: (e: Effect) => T | undefined, add: (a: T, b: T) => T): T | undefined =>
    effects
      .map(get)
      .filter((p) => p !== undefined)
      .reduce<T | undefined>((s, p) => (s === undefined ? p : add(s, p)), undefined);
  let push = sum(
    (e) => e.push,
    (a, b) => a.add(b),
  );
  let drag = sum(
    (e) => e.drag,
    (a, b) => a.add(b),
  );
  const carry = sum(
    (e) => e.carry,
    (a, b) => a.add(b),
  );
  const limit = sum(
    (e) => e.limit,
    (a, b) => a.min(b),
  );
  if (push && swarm.dials.mass !== 1) {
    push = push.scale(g.float(1).div(own.number('mass').max(1e-6)));
  }
  if (drag && swarm.dials.resistance !== 1) drag = drag.mul(own.number('resistance'));
  const { keep, one, two } = integrals(step, drag?.max(0));
  let next = position.add(velocity.scale(one));
  let speed = keep ? velocity.scale(keep) : velocity;
  if (push) {
    next = next.add(push.scale(two));
    speed = speed.add(push.scale(one));
  }
  if (carry) next = next.add(carry);
  if (limit) {
    const within = (v: Vec3, most: Expr): Vec3 => v.scale(most.div(v.length().max(1e-9)).min(1));
    // The speed at the end, and the way with all that carries: neither by the measure of the other.
    speed = within(speed, limit);
    next = position.add(within(next.sub(position), limit.mul(step)));
  }
  return { position: next, velocity: speed, ...(carry ? { carry } : {}) };
}

/** Where an emitter that holds its particles has them. */
function holdOf(
  builder: KernelBuilder,
  swarm: Swarm,
  particle: ParticleInputs,
  moving: Omit<Moving, 'field'>,
  free: Vec3,
): Vec3 {
  const emitter: EmitterKind = kindOf('emitters', swarm.emitter.kind);
  const dial = emitterReader(builder, swarm, particle);
  const hold = emitter.hold?.(dial, moving);
  if (!hold) return free;
  const placement = placementOf(dial.atMoment(1));
  if (hold.carry) return free.add(placement.direction(hold.carry));
  const place = placement.place(hold.place!);
  if (!hold.softness) return place;
  const share = builder.graph.float(1).sub(exp(hold.softness.mul(moving.step).neg()));
  return free.add(place.sub(free).scale(share));
}
