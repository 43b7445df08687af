/** Columns of a table of particles: metres, seconds, linear light. */
export const COLUMNS = [
  'id',
  'age',
  'life',
  'px',
  'py',
  'pz',
  'vx',
  'vy',
  'vz',
  'size',
  'r',
  'g',
  'b',
  'a',
] as const;
