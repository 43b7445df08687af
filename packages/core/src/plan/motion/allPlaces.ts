import { kindOf } from '../../sections';
import type { Places } from '../../sections/kinds';
import { takesEachPlace } from '../../sections/swarms/swarmDials';
import type { World } from '../../language/world';
import type { Swarm } from '../../piece/types';

/** The places of a swarm's emitter, where it has such as can be counted. */
export function emitterPlaces({ emitter }: Swarm, stock: World['stock']): Places | null {
  return kindOf('emitters', emitter.kind).places?.(emitter.dials, stock) ?? null;
}

/** Births that give each place of its emitter one, where that is how they go; with a density of 1 as many as places. */
export function birthsOfAllPlaces(
  swarm: Swarm,
  scene: Pick<World, 'stock' | 'density'>,
): number | null {
  if (!takesEachPlace(swarm.dials)) return null;
  const places = emitterPlaces(swarm, (id) => scene.stock(id));
  return places && Math.round(places.count * scene.density);
}
