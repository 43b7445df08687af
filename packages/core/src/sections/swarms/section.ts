import type { Section } from '../section';

/** Populations of particles; each has an emitter, a launch and bodies, and no kind of its own. */
export const section = {
  list: 'swarms',
  one: 'swarm',
  most: 64,
  dialled: true,
  place: 'world',
  names: ['feeling'],
  influence: 'feels',
  varies: 'look',
} as const satisfies Section;
