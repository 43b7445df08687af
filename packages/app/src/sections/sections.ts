import { SECTIONS, sectionOf } from '@vast-swarm/core/kinds';
import type { PartList } from '@vast-swarm/core/piece';

/** Words of a section on screen. */
export interface SectionWords {
  /** Before its parts in the line-up. */
  title: string;
  /** On what adds a part to it. */
  add: string;
  /** In the guide: what its kinds are for. */
  guide: string;
  /** The question where a kind is chosen. */
  ask?: string;
  /** Whether one of its parts can be shown without all others. */
  alone?: true;
}

const WORDS: Record<PartList, SectionWords> = {
  swarms: {
    title: 'Swarms',
    add: 'Add a swarm',
    guide: 'Swarms: what is seen',
    ask: 'Where are particles born?',
    alone: true,
  },
  forces: { title: 'Forces', add: 'Add a force', guide: 'Forces: what moves them', alone: true },
  colliders: {
    title: 'Surroundings',
    add: 'Add a collider or zone',
    guide: 'Colliders and zones: what stands in their way',
    alone: true,
  },
  media: {
    title: 'Media',
    add: 'Add a medium',
    guide: 'Media: what swarms stir and ride',
    alone: true,
  },
  lights: {
    title: 'Lights',
    add: 'Add a light',
    guide: 'Lights: what lights solid things',
    alone: true,
  },
  performers: {
    title: 'Performers',
    add: 'Add a performer',
    guide: 'Performers: whose joints drive the piece',
  },
  pictures: {
    title: 'Pictures',
    add: 'Add a clip, camera or made map',
    guide: 'Pictures: clips, cameras and made maps',
  },
  sounds: { title: 'Sounds', add: 'Add a sound', guide: 'Sounds: what is heard' },
  signals: {
    title: 'Signals',
    add: 'Add a signal',
    guide: 'Signals: numbers that change with time',
  },
  finish: { title: 'Finish', add: 'Add a finish', guide: 'Finish: what happens to the frame' },
  controls: {
    title: 'Controls',
    add: 'Add a control',
    guide: 'Controls: what is put forward for whoever runs the show',
  },
  cues: {
    title: 'Cues',
    add: 'Add a cue',
    guide: 'Cues: changes of controls that are fired',
  },
};

/** Words of a section; those of one from outside follow from its name. */
export function wordsOf(list: PartList): SectionWords {
  if (list in WORDS) return WORDS[list];
  const title = list.charAt(0).toUpperCase() + list.slice(1);
  return { title, add: `Add a ${sectionOf(list).one}`, guide: title };
}

/** All lists of parts, in the order in which the work is done. */
export function sectionLists(): PartList[] {
  return SECTIONS.map((s) => s.list as PartList);
}
