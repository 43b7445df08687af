import { inquiryOf } from '../piece/inquiry';
import { kindOf } from '../sections';
import { longestLife, takesEachPlace } from '../sections/swarms/swarmDials';
import { wantsPlaceColour } from '../feeds/feeds';
import type { Swarm } from '../piece/types';
import { emitterPlaces } from './motion/allPlaces';
import { parentOf } from './motion/motionKey';
import { MOST_PARTICLES } from './plan';
import type { Scene } from './scene';

/** Notices of swarms with fewer births than they were set to. */

const count = (n: number): string => n.toLocaleString('en-GB');

/** Of a swarm that is born from another which is not there. */
export function orphanText({ piece }: Scene, swarm: Swarm): string {
  const other = piece.swarms.find((s) => s.id === parentOf(swarm));
  if (!other) return `${swarm.name} is born from a swarm that is not there: choose another.`;
  if (!other.on) return `${swarm.name} is born from ${other.name}, which is switched off.`;
  return `${swarm.name} and ${other.name} are born from each other, so nothing begins: choose another swarm for one of them.`;
}

/** @param byLimit whether its own dial holds it, and not the machine */
export function cappedText(swarm: Swarm, needed: number, most: number, byLimit: boolean): string {
  const what = byLimit ? 'its limit' : `the machine's limit of ${count(MOST_PARTICLES)} in all`;
  const remedy = byLimit ? `A limit of ${count(needed)} would be enough.` : lessText(swarm);
  return `${swarm.name} would have ${count(needed)} particles alive at once; ${what} holds it at ${count(most)}, so the oldest go early. ${remedy}`;
}

function lessText({ dials }: Swarm): string {
  if (takesEachPlace(dials)) return "Use fewer places, or lower the piece's density.";
  if (dials.lasts === 'ever') return 'Lower the rate or the burst, or do not let it live for ever.';
  return `Lower the rate, the burst or the lifetime (up to ${String(longestLife(dials))} s).`;
}

/** Of a swarm that is to have the colours of places without any; null where it is not. */
export function colourlessText({ name, dials, emitter }: Swarm, scene: Scene): string | null {
  const { title, whyNoBirths } = kindOf('emitters', emitter.kind);
  if (!wantsPlaceColour(dials.colour)) return null;
  // Where nothing is chosen yet, that is told already.
  if (whyNoBirths?.(emitter.dials, inquiryOf(scene.piece))) return null;
  return `${name} is to have the colour of the place it is born at, but those of ${title} have none here, so it is white. Choose another colour.`;
}

/** Of a swarm that is to take all places of an emitter which has none to count; null where it has some. */
export function placelessText(swarm: Swarm, scene: Scene): string | null {
  const { name, dials, emitter } = swarm;
  if (!takesEachPlace(dials) || emitterPlaces(swarm, (id) => scene.stock(id))) return null;
  const { title, places, whyNoBirths } = kindOf('emitters', emitter.kind);
  // Where nothing is chosen yet, that is told already.
  if (places && whyNoBirths?.(emitter.dials, inquiryOf(scene.piece))) return null;
  const why = places ? 'as it is set' : 'of its own';
  return `${name} is to give each place of its emitter a particle, but ${title} has no places ${why} that could be counted, so none are born. Choose 'In bursts' and say how many.`;
}
