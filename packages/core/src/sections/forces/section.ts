import type { Section } from '../section';

/** Forces: accelerations of particles. */
export const section = {
  list: 'forces',
  one: 'force',
  most: 64,
  place: 'world',
  names: ['acting'],
  influence: 'felt',
  pushes: true,
  varies: 'motion',
} as const satisfies Section;
