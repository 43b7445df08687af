import type { Section } from '../section';

/** Treatments of the drawn frame. */
export const section = {
  list: 'finish',
  one: 'finish',
  most: 32,
  place: 'end',
  scenery: true,
  seenOnly: true,
  varies: 'finish',
} as const satisfies Section;
