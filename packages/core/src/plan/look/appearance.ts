import { swarmDials } from '../../sections/swarms/swarmDials';
import { valuesOf } from '../../language/dials';
import { smoothstep, Vec3, type Expr } from '@vast-swarm/kernel';
import { kindOf } from '../../sections';
import type { EmitterKind } from '../../sections/kinds';
import { wantsPlaceColour } from '../../feeds/feeds';
import type { Part, Swarm } from '../../piece/types';
import { densityOf } from './density';
import { sharedDials, type DialReader } from '../../language/dialReader';
import { FRAME, given } from '../../language/names';
import { bodyDials } from '../../sections/swarms/bodies/common';
import type { SceneBuilder } from '../scene';
import { bodyReader, emitterReader, swarmReader } from '../readers';
import type { ParticleInputs, Repeat } from '../../language/particle';
import { asSeen } from '../motion/seenVelocity';
import { livingParticle, loadVec } from '../../language/state';
import { givingWay } from '../../feeds/loop';
import type { View } from '../../language/view';

/** How a particle looks at this moment: diameter in metres, opacity, linear light. */
export interface Appearance {
  particle: ParticleInputs;
  size: Expr;
  opacity: Expr;
  colour: Vec3;
  alive: Expr;
  age: Expr;
  /** How much of it is there, in its opacity already, where rounds of a loop give way to each other. */
  over: Expr | null;
}

/** Cross-fade of particles that live for ever in a loop: one of a round goes while the same of another comes. */
function goingOver({ scene, graph: g }: SceneBuilder, swarm: Swarm, age: Expr): Expr | null {
  const { period } = scene;
  if (period === null || swarm.dials.lasts !== 'ever') return null;
  const span = givingWay(period);
  const smooth = (since: Expr): Expr => smoothstep(g.float(0), g.float(span), since);
  return smooth(age).mul(smooth(g.float(period + span).sub(age)));
}

/** Seconds before the frame's end that are drawn, where the shutter lets light in for a while. */
export function momentOf(builder: SceneBuilder): Expr | null {
  if (builder.scene.piece.camera.dials.shutter === 0) return null;
  return builder.uniform(FRAME.own('moment'), (f) => f.before ?? 0);
}

/**
 * @param before seconds before the state that are wanted; null for the state itself
 * @param repeat which repeat is looked at, where there are several
 */
export function appearance(
  builder: SceneBuilder,
  swarm: Swarm,
  capacity: number,
  before: Expr | null,
  repeat: Repeat | null,
): Appearance {
  const g = builder.graph;
  const state = g.load('age', g.lane());
  const age = before ? state.sub(before) : state;
  const life = g.load('life', g.lane());
  const living = asSeen(builder, livingParticle(builder, swarm.id, capacity, age));
  const particle = repeat ? { ...living, repeat } : living;
  const placeColour = colourOfPlace(builder, swarm, particle);
  const dial = swarmReader(builder, swarm, { ...particle, placeColour });
  const density = densityOf(builder.scene.piece.density);
  const opacity = dial
    .number('opacity')
    .mul(builder.uniform(FRAME.own('densityOpacity'), density.opacity));
  const over = goingOver(builder, swarm, age);
  return {
    particle,
    size: dial.number('size').mul(builder.uniform(FRAME.own('densitySize'), density.size)),
    opacity: over ? opacity.mul(over) : opacity,
    over,
    colour: dial.colour('colour').scale(dial.number('light')),
    alive: age.ge(0).and(age.lt(life)),
    age,
  };
}

function colourOfPlace(builder: SceneBuilder, swarm: Swarm, particle: ParticleInputs): Vec3 | null {
  const emitter: EmitterKind = kindOf('emitters', swarm.emitter.kind);
  const { colour } = valuesOf(swarmDials, swarm.dials);
  if (!emitter.colour || !wantsPlaceColour(colour)) return null;
  return emitter.colour(emitterReader(builder, swarm, particle));
}

/** A particle as one of its bodies shows it. */
export interface Shown extends Appearance {
  /** The dials of the body that all bodies have; see sharedDials for its own. */
  dial: DialReader<typeof bodyDials>;
  /** World frame, of the repeat that is drawn. */
  position: Vec3;
  velocity: () => Vec3;
  /** A direction as the repeat turns it; its length is kept. */
  turned: (v: Vec3) => Vec3;
}

export function shown(
  builder: SceneBuilder,
  view: View,
  swarm: Swarm,
  body: Part,
  capacity: number,
): Shown {
  const before = momentOf(builder);
  const look = appearance(builder, swarm, capacity, before, repeatOf(builder, swarm));
  const dial = sharedDials(bodyReader(builder, swarm.id, body, look.particle), bodyDials);
  const velocity = (): Vec3 => look.particle.readings!.velocity;
  const state = loadVec(builder, 0);
  const place = standing(builder, view, swarm);
  const whole = look.size.mul(dial.number('scale'));
  // Opaque things have no opacity: they grow and shrink.
  const size = look.over && body.dials.mode === 'opaque' ? whole.mul(look.over) : whole;
  return {
    ...look,
    dial,
    size: place.scale ? size.mul(place.scale) : size,
    opacity: look.opacity.mul(dial.number('cover')).clamp(0, 1),
    colour: look.colour.scale(dial.number('gain')),
    position: place.place(before ? state.sub(velocity().scale(before)) : state),
    velocity: () => place.direction(velocity()),
    turned: place.scale
      ? (v) => place.direction(v).scale(builder.graph.float(1).div(place.scale!))
      : place.direction,
  };
}

/** Key of a repeat's chances and surface, from the uniforms of copies.ts; null where repeats are alike. */
function repeatOf({ graph }: SceneBuilder, { copies }: Swarm): Repeat | null {
  const several = copies.filter((c) => c.count > 1);
  const differs = new Set(several.flatMap(({ differ }) => differ?.in ?? []));
  const runOn = several.some((c) => c.runsOn);
  if (differs.size === 0 && !runOn) return null;
  const pair = (name: 'first' | 'part' | 'shift'): [Expr, Expr] => [
    graph.uniform(given(`copy.${name}.0`)),
    graph.uniform(given(`copy.${name}.1`)),
  ];
  return {
    chance: (of) =>
      of !== null && differs.has(of) ? graph.uniform(given(`copy.chance.${of}`), 'i32') : null,
    surface: (at) => {
      if (!runOn) return at;
      const [first, part] = [pair('first'), pair('part')];
      return [at[0].mul(part[0]).add(first[0]), at[1].mul(part[1]).add(first[1])];
    },
    shift: differs.has('map') ? pair('shift') : null,
  };
}

export interface Standing {
  place: (p: Vec3) => Vec3;
  /** Directions, with the scale of the repeat. */
  direction: (v: Vec3) => Vec3;
  /** How much larger the repeat is. */
  scale: Expr | null;
}

/**
 * From where a swarm is simulated to where it is drawn: pinned to the camera, and repeated. Repeats
 * have the uniforms `copy.0` to `copy.11` (see copies.ts) and `copy.scale`.
 */
export function standing(builder: SceneBuilder, view: View, swarm: Swarm): Standing {
  const repeated = swarm.copies.some((c) => c.count > 1);
  const cell = (i: number): Expr => builder.graph.uniform(given(`copy.${String(i)}`));
  const row = (i: number): Vec3 => new Vec3(cell(4 * i), cell(4 * i + 1), cell(4 * i + 2));
  const turn = (v: Vec3): Vec3 => new Vec3(row(0).dot(v), row(1).dot(v), row(2).dot(v));
  const shift = (): Vec3 => new Vec3(cell(3), cell(7), cell(11));
  const pinned = swarm.dials.pinned === 'camera';
  const pin = (v: Vec3): Vec3 => {
    const across = view.axis('right').scale(v.x).add(view.axis('up').scale(v.y));
    return across.sub(view.axis('forward').scale(v.z));
  };
  const home = (): Vec3 => {
    const distance = view.number('distance', (pose) => pose.distance);
    return view.axis('eye').add(view.axis('forward').scale(distance));
  };
  const direction = (v: Vec3): Vec3 => {
    const own = repeated ? turn(v) : v;
    return pinned ? pin(own) : own;
  };
  return {
    direction,
    place: (p) => {
      const own = repeated ? turn(p).add(shift()) : p;
      return pinned ? pin(own).add(home()) : own;
    },
    scale: repeated ? builder.graph.uniform(given('copy.scale')) : null,
  };
}
