import type { Section } from '../section';

/** What accelerates particles. */
export const section = {
  list: 'forces',
  one: 'force',
  most: 64,
  place: 'world',
  names: ['acting'],
  influence: 'felt',
  varies: 'motion',
} as const satisfies Section;
