import type { Made, StockType } from '@vast-swarm/core';

export const MADE_NAMES: Record<Made, string> = {
  conch: 'Conch',
  buoy: 'Buoy',
  slipway: 'Slipway',
  chart: 'Tide chart',
  rope: 'Rope',
  harbourMark: 'Harbour mark',
  lamps: 'Quay lamps',
  crystal: 'Salt crystal',
  flags: 'Signal flags',
  dusk: 'Harbour dusk',
};

export const TYPE_NAMES: Record<StockType, string> = {
  mesh: 'Mesh',
  cloud: 'Point cloud',
  picture: 'Picture',
  outline: 'Outline',
  table: 'Lookup table',
};
