import type { Section } from '../section';

/** Solids and zones that particles meet. */
export const section = {
  list: 'colliders',
  one: 'collider',
  most: 64,
  place: 'world',
  names: ['acting'],
  influence: 'felt',
  varies: 'motion',
} as const satisfies Section;
