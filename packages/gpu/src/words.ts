import { DRAW_TABLES, layout, MOST_LAMPS } from '@vast-swarm/core/plan';

/**
 * Of every draw: the frame, 1 / metres of fading before opaque things, whether depth goes by 1 / metres,
 * how many things there are, and where their mean depths go.
 */
const SHARED = ['width', 'height', 'soft', 'inverse', 'items', 'means'] as const;

const { discs, marks, meshes, trails, links } = DRAW_TABLES;

/** Words of a draw's parameters; shaders get them as constants. */
export const WORDS = {
  shared: layout(SHARED),
  discs: layout(SHARED, discs.outputs, { edge: 1 }),
  marks: layout(SHARED, marks.outputs, marks.words),
  // Lamps stand among the words.
  // Which list of copies is drawn, see COPY_LISTS.
  meshes: layout(SHARED, meshes.outputs, meshes.words, { lamps: 8 * MOST_LAMPS, list: 1 }),
  trails: layout(SHARED, trails.outputs, trails.words),
  // Where the limit of ranks goes, and the byte of a rank that is looked at.
  links: layout(SHARED, links.outputs, links.words, ['limit', 'shift']),
};

/** Quads of words that a draw's parameters have room for. */
export const QUADS = 40;
