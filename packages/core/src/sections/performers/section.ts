import type { Section } from '../section';

/** Somebody whose joints drive the piece. */
export const section = {
  list: 'performers',
  one: 'performer',
  most: 16,
  dialled: 'last',
  place: 'world',
  records: true,
} as const satisfies Section;
