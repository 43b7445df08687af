import { FOR_EVER } from '../../sections/swarms/swarmDials';
import { launchDials } from '../../sections/swarms/launches/inherit';
import { sharedDials } from '../../language/dialReader';
import { given } from '../../language/names';
import { emitterReader, launchReader, swarmReader } from '../readers';
import { atan2, Vec3, type Expr } from '@vast-swarm/kernel';
import { kindOf } from '../../sections';
import type { Birthplace } from '../../sections/kinds';
import type { Swarm } from '../../piece/types';
import { DialReader } from '../../language/dialReader';
import type { BirthScope } from '../../language/builder';
import type { BirthPlace, ParticleInputs } from '../../language/particle';
import { KernelBuilder, type KernelData } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import { placementOf, travels } from '../../language/placement';
import type { Scene } from '../scene';
import { STATE } from '../../language/particle';
import { ownNumber } from '../../language/state';

/**
 * Births: runs over the slots of one event. The engine gives the uniforms `idOffset` (id minus
 * slot), `first`, `count`, `ageFirst` and `ageStep` (s): ages are 0 or less, and reach 0 inside the
 * step, so that the motion of the same step moves each particle just for the time it has lived.
 *
 * @param parent of the swarm it is born from; its states are the buffers `parent.*`
 * @returns also whether the places of births have colours
 */
export function birthKernel(
  scene: Scene,
  swarm: Swarm,
  data: KernelData,
  parent: KernelBuilder['parent'],
): { birth: PlanKernel; coloured: boolean } {
  const builder = new KernelBuilder(scene, data);
  builder.parent = parent;
  const g = builder.graph;
  const id = g.lane().add(g.uniform(given('idOffset'), 'i32'));
  const order = id.sub(g.uniform(given('first'), 'i32'));
  const born = order.ge(0).and(order.lt(g.uniform(given('count'), 'i32')));
  const ageStep = g.uniform(given('ageStep'));
  const age = g.uniform(given('ageFirst')).sub(order.toFloat().mul(ageStep));
  const particle: ParticleInputs = {
    swarm: swarm.id,
    id: ownNumber(builder, id),
    life: null,
    born: age.neg().mul(scene.rate).clamp(0, 1),
  };
  const at = emitterReader(builder, swarm, particle);
  const place = kindOf('emitters', swarm.emitter.kind).build(at);
  const placement = placementOf(at);
  const position = placement.place(place.position);
  const white = new Vec3(g.float(1), g.float(1), g.float(1));
  const birthplace: BirthPlace = {
    position,
    surface: place.surface ?? fromMiddle(place.position),
    colour: place.colour ?? white,
    letter: place.letter ?? g.float(0),
  };
  const placed: ParticleInputs = { ...particle, birthplace };
  const launch = launchReader(builder, swarm, placed);
  const throwing = sharedDials(launch, launchDials);
  const thrown = kindOf('launches', swarm.launch.kind).build(launch, {
    ...place,
    surface: birthplace.surface,
  });
  let velocity = placement.direction(place.velocity ? thrown.add(place.velocity) : thrown);
  if (throwing.raw('inherit') !== 0 && travels(swarm.emitter.dials)) {
    velocity = velocity.add(travel(at, place, scene.rate).scale(throwing.number('inherit')));
  }
  const own = swarmReader(builder, swarm, placed);
  position.parts.forEach((e, i) => g.store(STATE[i]!, e, born));
  velocity.parts.forEach((e, i) => g.store(STATE[3 + i]!, e, born));
  g.store('age', age, born);
  // A particle without a place has no life at all.
  const life = own.raw('lasts') === 'ever' ? g.float(FOR_EVER) : own.number('lifetime');
  g.store('life', place.there ? place.there.select(life, g.float(0)) : life, born);
  const scope: BirthScope = {
    ...birthplace,
    velocity,
    age,
    fed: (source, name, key, value) =>
      new DialReader(builder, source, placed).base(name, key, value),
  };
  for (const [name, find] of data.kept) g.store(name, find(scope), born);
  return { birth: builder, coloured: place.colour !== undefined };
}

/** Longitude and latitude of a place about the middle of its emitter, 0 to 1. */
function fromMiddle({ x, y, z }: Vec3): [Expr, Expr] {
  const around = atan2(z, x)
    .mul(1 / (2 * Math.PI))
    .add(0.5);
  const high = atan2(y, x.mul(x).add(z.mul(z)).sqrt());
  return [around, x.graph.float(0.5).sub(high.mul(1 / Math.PI))];
}

/** Part of a frame before and behind a birth between which the emitter's velocity is measured. */
const AROUND = 0.05;

/** The velocity of the place itself as the emitter travels, m/s in the world frame. */
function travel(at: DialReader, place: Birthplace, rate: number): Vec3 {
  const born = at.particle!.born!;
  const spot = (moment: number): Vec3 =>
    placementOf(at.atMoment(born.add(moment))).place(place.position);
  return spot(AROUND)
    .sub(spot(-AROUND))
    .scale(rate / (2 * AROUND));
}
