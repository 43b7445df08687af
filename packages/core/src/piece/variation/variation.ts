import { randomKey, unitNumber } from '@vast-swarm/kernel';
import type { ColourFeed, DialValue, NumberFeed, VectorFeed } from '../../feeds/feeds';
import type { Stop } from '../../feeds/gradient';
import type { DialSpec } from '../../language/dials';
import { SECTIONS } from '../../sections/lists';
import { holderOf } from '../controls';
import { ownSection } from '../follow';
import { addressOf } from '../places';
import type { Piece } from '../types';
import { dialsOf, putAt, type DialPlace } from '../walk';
import { turnedColour, turnedFeed, turnedStops, turnedVector, type Luck } from './turned';

/** Groups of a piece's dials that can be turned. */
export const VARIED = {
  motion: 'Motion',
  look: 'Look',
  colour: 'Colour',
  finish: 'Finish',
} as const;
export type Varied = keyof typeof VARIED;

export interface Turning {
  /** How far dials are turned: 0 not at all, 1 wildly. */
  reach: number;
  groups: readonly Varied[];
  /** Ids of the parts whose dials are turned; all where nothing is said. */
  parts?: readonly string[] | undefined;
  /** Names of places (see `addressOf`) that stay as they are. */
  locked?: readonly string[] | undefined;
}

/** How many are shown at once: their numbers stand one behind the other. */
export const NINE = 9;

/**
 * A neighbour of a piece. It is a function of the piece, its number and how it is turned, so that one that was found can
 * be found again; a dial's luck hangs on nothing but its own place.
 */
export function variationOf(piece: Piece, number: number, turning: Turning): Piece {
  const next = copied(piece);
  if (turning.reach === 0) return next;
  const locked = new Set(turning.locked);
  for (const place of dialsOf(piece)) {
    const { spec, value, path } = place;
    const address = turnable(piece, place, turning);
    if (address === null || locked.has(address)) continue;
    const luck = luckOf(address, number);
    // Neighbours differ in what is turned, too: some stays as it is.
    if (luck.chance('whether') > 0.45 + 0.5 * turning.reach) continue;
    const part = address.split('.').slice(0, 2).join('.');
    const degrees = hueOf(part, number, turning.reach);
    putAt(next, path, turned(spec, value, turning.reach, degrees, luck));
  }
  return next;
}

/**
 * A piece with something of two: each dial as one of them has it.
 *
 * @param a and what is no dial, or is another kind of part in the other, is as it has it
 */
export function crossed(a: Piece, b: Piece, number: number): Piece {
  const next = copied(a);
  const others = new Map([...dialsOf(b)].map((place) => [placeKey(b, place), place.value]));
  for (const place of dialsOf(a)) {
    const key = placeKey(a, place);
    const other = others.get(key);
    if (other === undefined || luckOf(key, number).chance('whose') < 0.5) continue;
    putAt(next, place.path, structuredClone(other));
  }
  return next;
}

/** Its own but for the stock, which nobody turns: what has been read for it is at hand still. */
function copied(piece: Piece): Piece {
  return { ...structuredClone({ ...piece, stock: [] }), stock: piece.stock };
}

function placeKey(piece: Piece, { path, spec }: DialPlace): string {
  return `${addressOf(piece, path) ?? path.join('.')} ${spec.title}`;
}

function luckOf(address: string, number: number): Luck {
  const chance = (purpose: string): number =>
    unitNumber(randomKey(`${address} ${purpose}`, number));
  return {
    chance,
    // Box and Muller, 1958.
    normal: (purpose) => {
      const radius = Math.sqrt(-2 * Math.log(1 - chance(`${purpose} far`)));
      const by = radius * Math.cos(2 * Math.PI * chance(purpose));
      return Math.min(3, Math.max(-3, by));
    },
  };
}

/** Degrees that the hues of a part are turned by: for the most part as those of all, so that they go together still. */
function hueOf(part: string, number: number, reach: number): number {
  const [all, own] = [luckOf('', number).normal('hue'), luckOf(part, number).normal('hue')];
  return reach * (75 * all + 40 * own);
}

/** The name of a place that is to be turned; null where it is none. */
function turnable(piece: Piece, place: DialPlace, { groups, parts }: Turning): string | null {
  const group = groupOf(place);
  if (!group || !groups.includes(group)) return null;
  const address = addressOf(piece, place.path);
  // What follows another swarm, or is held by a control, has no say.
  if (address === null || follows(piece, place.path) || holderOf(piece, address)) return null;
  const [list, id] = address.split('.');
  return parts && !parts.includes(list === 'backdrop' ? list : id!) ? null : address;
}

function follows(piece: Piece, path: DialPlace['path']): boolean {
  const swarm = path[0] === 'swarms' ? piece.swarms[path[1] as number] : undefined;
  return swarm?.follows !== undefined && !swarm.own?.includes(ownSection(path)!);
}

/** When things happen, and where parts stand, is composed, and not turned. */
const COMPOSED = new Set([
  'start',
  'end',
  'loop',
  'burstAt',
  'burstEvery',
  'centre',
  'turn',
  'pivot',
]);

function groupOf({ spec, path }: DialPlace): Varied | null {
  const [list, , section] = path;
  if (COMPOSED.has(String(path.at(-1)))) return null;
  if (spec.type === 'vector' && spec.grasp !== undefined && spec.grasp !== 'way') return null;
  if (!['number', 'vector', 'colour', 'stops', 'choice'].includes(spec.type)) return null;
  const holder = list === 'backdrop' ? 'look' : SECTIONS.find((s) => s.list === list)?.varies;
  if (holder === 'finish') return 'finish';
  const colour = spec.type === 'colour' || spec.type === 'stops';
  if (holder === 'look') {
    if (colour) return 'colour';
    if (spec.type === 'choice') return section === 'bodies' ? 'look' : null;
    const looks = section === 'bodies' || spec.group === 'Look' || list !== 'swarms';
    return looks ? 'look' : 'motion';
  }
  return holder === 'motion' && spec.type !== 'choice' ? (colour ? 'colour' : 'motion') : null;
}

/** Reach from which choices are made anew, too, and how often. */
const WILD = 0.75;
const SELDOM = 0.25;

function turned(
  spec: DialSpec,
  value: DialValue,
  reach: number,
  degrees: number,
  luck: Luck,
): DialValue {
  switch (spec.type) {
    case 'number':
      return turnedFeed(value as NumberFeed, spec, reach, luck);
    case 'vector':
      return turnedVector(value as VectorFeed, spec, reach, luck);
    case 'colour':
      return turnedColour(value as ColourFeed, degrees, reach, luck);
    case 'stops':
      return turnedStops(value as Stop[], degrees, reach, luck);
    case 'choice': {
      if (reach < WILD || luck.chance('choose') > SELDOM) return value;
      const { options } = spec;
      return options[Math.floor(luck.chance('option') * options.length)]!.value;
    }
    default:
      return value;
  }
}
