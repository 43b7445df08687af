import type { StockType } from '@vast-swarm/core/stock';

export const TYPE_NAMES: Record<StockType, string> = {
  mesh: 'Mesh',
  cloud: 'Point cloud',
  picture: 'Picture',
  outline: 'Outline',
  table: 'Lookup table',
  sound: 'Sound',
  clip: 'Clip',
  motion: 'Motion',
  font: 'Font',
};
