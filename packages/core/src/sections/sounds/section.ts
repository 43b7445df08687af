import type { Section } from '../section';

/** Sounds: heard by the audience, and by signals. */
export const section = {
  list: 'sounds',
  one: 'sound',
  most: 32,
  dialled: true,
  place: 'world',
  records: true,
} as const satisfies Section;
