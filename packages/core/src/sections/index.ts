import { backdrops } from './scene/backdrops';
import { bodies } from './swarms/bodies';
import { cameras } from './scene/cameras';
import { colliders } from './colliders';
import { controls } from './controls';
import { cues } from './cues';
import { emitters } from './swarms/emitters';
import { finish } from './finish';
import { forces } from './forces';
import type { Kind } from './kinds';
import type { Section } from './section';
import { enlist } from './lists';
import { media } from './media';
import { performers } from './performers';
import { pictures } from './pictures';
import { launches } from './swarms/launches';
import { lights } from './lights';
import { signals } from './signals';
import { sounds } from './sounds';

const shelves = {
  emitters,
  launches,
  forces,
  colliders,
  media,
  performers,
  pictures,
  sounds,
  signals,
  bodies,
  backdrops,
  cameras,
  lights,
  finish,
  controls,
  cues,
};

export type Shelf = keyof typeof shelves;
type KindOn<S extends Shelf> = (typeof shelves)[S][number];

/** Every kind of everything, by shelf. A new kind is a file of its own and a line in its folder's list. */
export const catalogue: { readonly [S in Shelf]: readonly KindOn<S>[] } = shelves;

let additions = 0;

/** Grows with every kind that is added from outside; what is made from the catalogue is made anew then. */
export function catalogueVersion(): number {
  return additions;
}

/**
 * Puts a kind on a shelf from outside; from then on it is in the schema, the chooser, the sheet and the
 * docs, and both engines run it.
 *
 * @example
 * addKind(
 *   'forces',
 *   force({
 *     kind: 'lift',
 *     title: 'Lift',
 *     help: 'A steady push upwards.',
 *     icon: 'M4 12h16',
 *     dials: { strength: number('Strength', 0.5, [0, 100], 'Acceleration.', { unit: 'm/s²' }) },
 *     build: (dial) => {
 *       const none = dial.graph.float(0);
 *       return { push: new Vec3(none, dial.number('strength'), none) };
 *     },
 *   }),
 * );
 *
 * @throws Error where there is a kind of that name on the shelf
 */
export function addKind<S extends Shelf>(shelf: S, kind: KindOn<S>): void {
  const list: Kind[] = shelves[shelf];
  if (list.some((k) => k.kind === kind.kind)) {
    throw new Error(`There is a kind '${kind.kind}' among ${shelf} already`);
  }
  list.push(kind);
  additions += 1;
}

/**
 * Adds a section from outside, with its kinds; from then on pieces have a list of its parts, and it is in the schema, the
 * line-up, the sheet and the docs. One that says `pushes` is simulated as forces are.
 *
 * @throws Error where there is a section, or a shelf, of that name
 */
export function addSection(section: Section, kinds: readonly Kind[]): void {
  if (Object.hasOwn(shelves, section.list))
    throw new Error(`There is a section '${section.list}' already`);
  Object.assign(shelves, { [section.list]: [...kinds] });
  enlist(section);
  additions += 1;
}

/** The kind of that name; the schema has seen to it that there is one. */
export function kindOf<S extends Shelf>(shelf: S, kind: string): KindOn<S> {
  const found = catalogue[shelf].find((k) => k.kind === kind);
  if (!found) throw new Error(`There is no kind '${kind}' among ${shelf}`);
  return found;
}
