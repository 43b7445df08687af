import type { Section } from '../section';

/** What is heard, and what signals listen to. */
export const section = {
  list: 'sounds',
  one: 'sound',
  most: 32,
  place: 'world',
  records: true,
} as const satisfies Section;
