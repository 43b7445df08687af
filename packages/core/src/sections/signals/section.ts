import type { Section } from '../section';

/** Numbers that change with time. */
export const section = {
  list: 'signals',
  one: 'signal',
  most: 64,
  dialled: true,
  place: 'world',
  names: ['numbers'],
} as const satisfies Section;
