import type { Section } from '../section';

/** Fluids that swarms stir and ride. */
export const section = {
  list: 'media',
  one: 'medium',
  most: 4,
  dialled: 'last',
  place: 'world',
  names: ['feeling', 'shown'],
  influence: 'feels',
  varies: 'motion',
} as const satisfies Section;
