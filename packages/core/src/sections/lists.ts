import { section as colliders } from './colliders/section';
import { section as controls } from './controls/section';
import { section as cues } from './cues/section';
import { section as finish } from './finish/section';
import { section as forces } from './forces/section';
import { section as lights } from './lights/section';
import { section as media } from './media/section';
import { section as performers } from './performers/section';
import { section as pictures } from './pictures/section';
import { NAME_SPACES, type Section } from './section';
import { section as signals } from './signals/section';
import { section as sounds } from './sounds/section';
import { section as swarms } from './swarms/section';

/** All sections, in the order in which their dials are gone over. */
const OWN = [
  swarms,
  forces,
  colliders,
  media,
  lights,
  performers,
  pictures,
  sounds,
  signals,
  finish,
  controls,
  cues,
] as const;

/** A list of parts of a piece. */
export type PartList = (typeof OWN)[number]['list'];

/** A list whose parts can be live input. */
export type RecordedList = Extract<(typeof OWN)[number], { records: true }>['list'];

/** A list whose parts are called by their names from outside. */
export type CalledList = Extract<(typeof OWN)[number], { called: true }>['list'];

/** All sections; sections from outside come last. */
export const SECTIONS: readonly Section[] = [...OWN];

/** The lists of parts that a piece has beside its swarms, each from the shelf of its name. */
export const PART_LISTS: readonly Exclude<PartList, 'swarms'>[] = listsWhere(
  (s) => s.list !== 'swarms',
) as Exclude<PartList, 'swarms'>[];

/** Adds a section; see `addSection`, which adds its kinds as well. */
export function enlist(section: Section): void {
  (SECTIONS as Section[]).push(section);
  (PART_LISTS as string[]).push(section.list);
}

/** The section of a list. */
export function sectionOf(list: PartList): Section {
  return SECTIONS.find((s) => s.list === list)!;
}

/** Lists of the sections of which something is so. */
export function listsWhere(is: (section: Section) => boolean): PartList[] {
  return SECTIONS.filter(is).map((s) => s.list as PartList);
}

/** The lists whose parts are named in one place, so that their ids differ: for each such place. */
export function namedTogether(): (PartList | 'stock')[][] {
  return NAME_SPACES.map((space) => [
    // What is in the stock can be shown, too.
    ...(space === 'shown' ? (['stock'] as const) : []),
    ...listsWhere((s) => s.names?.includes(space) ?? false),
  ]);
}

/** The lists whose ids differ from those of a list: that one itself, and all that are named where it is. */
export function namedWith(list: PartList | 'stock'): (PartList | 'stock')[] {
  return [
    ...new Set([
      list,
      ...namedTogether()
        .filter((g) => g.includes(list))
        .flat(),
    ]),
  ];
}
