import type { Section } from '../section';

/** Dials that are put forward under names. */
export const section = {
  list: 'controls',
  one: 'control',
  most: 128,
  dialled: true,
  place: 'end',
  names: ['numbers'],
  called: true,
} as const satisfies Section;
