import type { Section } from '../section';

/** Pictures that change with time. */
export const section = {
  list: 'pictures',
  one: 'picture',
  most: 32,
  place: 'world',
  names: ['shown'],
} as const satisfies Section;
