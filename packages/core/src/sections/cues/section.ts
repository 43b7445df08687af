import type { Section } from '../section';

/** Changes of controls that are fired. */
export const section = {
  list: 'cues',
  one: 'cue',
  most: 500,
  place: 'end',
  called: true,
} as const satisfies Section;
