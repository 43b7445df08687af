import { Vec3 } from '@vast-swarm/kernel';
import { kindOf } from '../catalogue';
import type { Dials, DialValues } from '../catalogue/dials';
import type { Birthplace, EmitterKind } from '../catalogue/kinds';
import { swarmDials } from '../catalogue/swarmDials';
import type { Swarm } from '../piece/schema';
import { DialReader, type BirthScope, type ParticleInputs } from './dialReader';
import {
  KernelBuilder,
  type PlanKernel,
  type SwarmData,
  type UniformSource,
} from './kernelBuilder';
import { placementOf, travels } from './placement';
import type { Scene } from './scene';
import { STATE } from './state';

/**
 * Births: runs over the slots of one event. The engine gives the uniforms `idOffset` (id minus
 * slot), `first`, `count`, `ageFirst` and `ageStep` (s): ages are 0 or less, and reach 0 inside the
 * step, so that the motion of the same step moves each particle just for the time it has lived.
 *
 * @param parent slots in use of the swarm it is born from; its states are the buffers `parent.*`
 */
export function birthKernel(
  scene: Scene,
  swarm: Swarm,
  data: SwarmData,
  parent: UniformSource | null,
): PlanKernel {
  const builder = new KernelBuilder(scene, data);
  if (parent !== null) builder.parent = { slots: parent };
  const g = builder.graph;
  const id = g.lane().add(g.uniform('idOffset', 'i32'));
  const order = id.sub(g.uniform('first', 'i32'));
  const born = order.ge(0).and(order.lt(g.uniform('count', 'i32')));
  const age = g.uniform('ageFirst').sub(order.toFloat().mul(g.uniform('ageStep')));
  const particle: ParticleInputs = {
    ...{ swarm: swarm.id, id, life: null },
    born: age.neg().mul(scene.rate).clamp(0, 1),
  };
  const reader = (scope: string, specs: Dials, dials: DialValues): DialReader =>
    new DialReader(builder, scope, specs, dials, particle);

  const emitter: EmitterKind = kindOf('emitters', swarm.emitter.kind);
  const at = reader(`${swarm.id}.emitter`, emitter.dials, swarm.emitter.dials);
  const place = emitter.build(at);
  const launch = kindOf('launches', swarm.launch.kind);
  const throwing = reader(`${swarm.id}.launch`, launch.dials, swarm.launch.dials);
  const placement = placementOf(at);
  const thrown = launch.build(throwing, place);
  const position = place.inWorld ? place.position : placement.place(place.position);
  let velocity = place.inWorld ? thrown : placement.direction(thrown);
  if (place.velocity) velocity = velocity.add(place.velocity);
  if (swarm.launch.dials.inherit !== 0 && travels(swarm.emitter.dials) && !place.inWorld) {
    velocity = velocity.add(travel(at, place, scene.rate).scale(throwing.number('inherit')));
  }
  const own = reader(`${swarm.id}.swarm`, swarmDials, swarm.dials);
  position.parts.forEach((e, i) => g.store(STATE[i]!, e, born));
  velocity.parts.forEach((e, i) => g.store(STATE[3 + i]!, e, born));
  g.store('age', age, born);
  // A particle without a place has no life at all.
  const life = own.number('lifetime');
  g.store('life', place.there ? place.there.select(life, g.float(0)) : life, born);
  const white = new Vec3(g.float(1), g.float(1), g.float(1));
  const scope: BirthScope = { reader, position, velocity, colour: place.colour ?? white };
  for (const [name, find] of data.kept) g.store(name, find(scope), born);
  return builder;
}

/** The velocity of the place itself as the emitter travels, m/s in the world frame. */
function travel(at: DialReader, place: Birthplace, rate: number): Vec3 {
  const spot = (moment: number): Vec3 => placementOf(at.atMoment(moment)).place(place.position);
  return spot(1).sub(spot(0)).scale(rate);
}
