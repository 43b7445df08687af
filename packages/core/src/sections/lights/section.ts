import type { Section } from '../section';

/** Lights of solid things. */
export const section = {
  list: 'lights',
  one: 'light',
  most: 16,
  place: 'scene',
  scenery: true,
  seenOnly: true,
  varies: 'look',
} as const satisfies Section;
