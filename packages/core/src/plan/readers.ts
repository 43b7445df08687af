import { kindOf } from '../sections';
import { fluidDials } from '../sections/media/dials';
import { sectionOf } from '../sections/lists';
import { swarmDials } from '../sections/swarms/swarmDials';
import type { KernelBuilder } from '../language/builder';
import { DialReader } from '../language/dialReader';
import type { Dials, DialValues } from '../language/dials';
import { Owner } from '../language/names';
import type { ParticleInputs } from '../language/particle';
import type { Pushing } from '../piece/pushing';
import type { Choice, Part, Swarm } from '../piece/types';
import { birthsOfAllPlaces } from './motion/allPlaces';

/**
 * Readers of the parts of a piece. Each part has an owner of its own; the labels are what random numbers
 * have been hashed from since the first version of the piece file.
 */

function reader<D extends Dials>(
  builder: KernelBuilder,
  owner: Owner,
  label: string,
  specs: D,
  values: DialValues,
  particle: ParticleInputs | null,
): DialReader<D> {
  return new DialReader<D>(builder, { owner, label, specs, values }, particle);
}

/** A swarm's own dials: births, mass, look. */
export function swarmReader(
  builder: KernelBuilder,
  { id, dials }: Swarm,
  particle: ParticleInputs,
): DialReader<typeof swarmDials> {
  return reader(builder, new Owner('swarm', id), `${id}.swarm`, swarmDials, dials, particle);
}

export function emitterReader(
  builder: KernelBuilder,
  swarm: Swarm,
  particle: ParticleInputs,
): DialReader {
  const { id, emitter } = swarm;
  const { kind, dials } = emitter;
  const owner = new Owner('swarm', id, 'emitter');
  const each = birthsOfAllPlaces(swarm, builder.scene);
  const placed = each === null ? particle : { ...particle, onePlaceEach: each };
  return reader(builder, owner, `${id}.emitter`, kindOf('emitters', kind).dials, dials, placed);
}

export function launchReader(
  builder: KernelBuilder,
  { id, launch: { kind, dials } }: Swarm,
  particle: ParticleInputs,
): DialReader {
  const owner = new Owner('swarm', id, 'launch');
  return reader(builder, owner, `${id}.launch`, kindOf('launches', kind).dials, dials, particle);
}

export function bodyReader(
  builder: KernelBuilder,
  swarm: string,
  { id, kind, dials }: Part,
  particle: ParticleInputs,
): DialReader {
  const owner = new Owner('swarm', swarm, 'body', id);
  return reader(builder, owner, `${swarm}.${id}`, kindOf('bodies', kind).dials, dials, particle);
}

/** Of a force, or whatever else acts on swarms, which all have their ids in common. */
export function partReader(
  builder: KernelBuilder,
  list: Pushing['list'],
  { id, kind, dials }: Part,
  particle: ParticleInputs | null,
): DialReader {
  const label = `${sectionOf(list).one}.${id}`;
  return reader(builder, new Owner(list, id), label, kindOf(list, kind).dials, dials, particle);
}

/** Of a medium, which has no particles. */
export function mediumReader(
  builder: KernelBuilder,
  { id, dials }: Part,
): DialReader<typeof fluidDials> {
  return reader(builder, new Owner('media', id), `medium.${id}`, fluidDials, dials, null);
}

export function treatmentReader(builder: KernelBuilder, { id, kind, dials }: Part): DialReader {
  return reader(builder, new Owner('finish', id), id, kindOf('finish', kind).dials, dials, null);
}

export function backdropReader(builder: KernelBuilder, { kind, dials }: Choice): DialReader {
  const specs = kindOf('backdrops', kind).dials;
  return reader(builder, new Owner('backdrop'), 'backdrop', specs, dials, null);
}
