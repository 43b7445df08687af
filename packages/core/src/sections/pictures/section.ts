import type { Section } from '../section';

/** Pictures that change with time. */
export const section = {
  list: 'pictures',
  one: 'picture',
  most: 32,
  dialled: true,
  place: 'world',
  records: true,
  names: ['shown'],
} as const satisfies Section;
