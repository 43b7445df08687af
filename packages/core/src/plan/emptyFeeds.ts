import { swarmDials } from '../sections/swarms/swarmDials';
import { layersOf, type DialValue } from '../feeds/feeds';
import type { ColourLayer } from '../feeds/colourLayers';
import { SECTIONS } from '../piece/follow';
import type { Piece, Swarm } from '../piece/types';
import { dialsOf } from '../piece/walk';
import type { Notice } from './plan';

/** Notices of dials of parts that are on, whose feed goes by something that has not been chosen, so that it changes nothing. */
export function emptyFeeds(piece: Piece): Notice[] {
  const told = [...dialsOf(piece)].flatMap(({ spec, value, path }): Notice[] => {
    const lacks = lackOf(value);
    if (lacks === null) return [];
    const [list, at] = path;
    const part = typeof at === 'number' ? piece[list as 'swarms'][at]! : { id: String(list) };
    if ('on' in part && !part.on) return [];
    const name = 'name' in part ? part.name : part.id;
    return [{ part: part.id, message: `${name}, ${spec.title}: ${lacks}.` }];
  });
  return [...told, ...piece.swarms.flatMap(unknownOwn)];
}

function lackOf(value: DialValue): string | null {
  if (typeof value !== 'object' || !('feed' in value)) return null;
  if (value.feed === 'gradient') {
    if (value.by === 'signal' && !value.signal) return 'no signal is chosen for its gradient';
    if (value.by === 'formula' && !value.text) return 'there is no formula for its gradient';
    return null;
  }
  const at = layersOf(value).findIndex(lacksSource);
  return at < 0 ? null : `its layer ${String(at + 1)} has nothing chosen that it goes by`;
}

/** The dial that holds a layer's source, by what it goes by. */
const SOURCE = {
  reading: 'reading',
  formula: 'text',
  signal: 'signal',
  picture: 'picture',
  swarm: 'swarm',
} as const satisfies Partial<Record<ColourLayer['by'], keyof ColourLayer>>;

function lacksSource(layer: ColourLayer): boolean {
  return layer.by in SOURCE && !layer[SOURCE[layer.by as keyof typeof SOURCE]];
}

/** Settings that a follower is to have for itself, which no swarm has. */
function unknownOwn({ id, name, own = [] }: Swarm): Notice[] {
  return own
    .filter(
      (key) => !Object.hasOwn(swarmDials, key) && !SECTIONS.some((section) => section === key),
    )
    .map((key) => ({
      part: id,
      message: `${name} is to have '${key}' of its own, which no swarm has.`,
    }));
}
