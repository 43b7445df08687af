import { kindOf, type Shelf } from '../sections';
import { defaults } from '../language/dials';
import { swarmDials } from '../sections/swarms/swarmDials';
import { listsWhere, namedWith, sectionOf } from '../sections/lists';
import type { Section } from '../sections/section';
import { freeName } from './controls';
import {
  FORMAT,
  VERSION,
  type Choice,
  type Part,
  type PartList,
  type Piece,
  type Swarm,
} from './types';

/** An id that none of the parts has. */
export function freshId(base: string, parts: readonly { id: string }[]): string {
  const taken = new Set(parts.map((p) => p.id));
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}-${String(n)}`;
    if (!taken.has(id)) return id;
  }
}

/** An id for a part of a list: none of those has it that are named in the same place. */
export function freshIdIn(piece: Piece, list: PartList | 'stock', base: string): string {
  return freshId(
    base,
    namedWith(list).flatMap((name): { id: string }[] => piece[name]),
  );
}

/** A part of a kind, new in a piece. */
export function newPart(piece: Piece, list: Exclude<PartList, 'swarms'>, kind: string): Part {
  const part = { ...makePart(list, kind, piece[list]), id: freshIdIn(piece, list, kind) };
  return isCalled(list) ? { ...part, name: freeName(piece, part.name) } : part;
}

/** Whether the parts of a list are called by their names from outside, so that these differ. */
export function isCalled(list: PartList): boolean {
  return sectionOf(list).called ?? false;
}

/** A name that none of the parts has: 'Wind', 'Wind 2', …. */
export function freshName(base: string, parts: readonly { name: string }[]): string {
  const taken = new Set(parts.map((p) => p.name));
  for (let n = 1; ; n++) {
    const name = n === 1 ? base : `${base} ${String(n)}`;
    if (!taken.has(name)) return name;
  }
}

export function makeChoice(shelf: Shelf, kind: string): Choice {
  return { kind, dials: defaults(kindOf(shelf, kind).dials) };
}

export function makePart(shelf: Shelf, kind: string, among: readonly Part[]): Part {
  const { title } = kindOf(shelf, kind);
  const part = { id: freshId(kind, among), name: freshName(title, among), on: true };
  return { ...part, ...makeChoice(shelf, kind) };
}

/** A swarm that can be seen at once: births fade in and out, with a little glow. */
export function makeSwarm(emitter: string, among: readonly Swarm[]): Swarm {
  return {
    id: freshId('swarm', among),
    name: freshName('Swarm', among),
    on: true,
    emitter: makeChoice('emitters', emitter),
    launch: makeChoice('launches', 'outward'),
    bodies: [makePart('bodies', 'disc', [])],
    dials: {
      ...defaults(swarmDials),
      opacity: {
        feed: 'fixed',
        value: 0.8,
        over: [
          { x: 0, y: 0 },
          { x: 0.15, y: 1 },
          { x: 1, y: 0 },
        ],
      },
    },
    copies: [],
  };
}

/** The lists of sections that stand at a place of the file, with nothing in them. */
function emptyLists(place: Section['place']): Pick<Piece, PartList> {
  const here = listsWhere((s) => s.place === place);
  return Object.fromEntries(here.map((list) => [list, []])) as unknown as Pick<Piece, PartList>;
}

export function makePiece(name: string): Piece {
  const finish: Part[] = [];
  for (const kind of ['bloom', 'exposure']) finish.push(makePart('finish', kind, finish));
  return {
    format: FORMAT,
    version: VERSION,
    name,
    seed: 1,
    frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 0, loop: false },
    backdrop: makeChoice('backdrops', 'radial'),
    camera: makeChoice('cameras', 'perspective'),
    ...emptyLists('scene'),
    density: 1,
    ...emptyLists('world'),
    stock: [],
    influence: {},
    ...emptyLists('end'),
    finish,
    played: [],
  };
}
