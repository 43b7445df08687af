import type { StockData } from '../stock';
import { buoy } from './buoy';
import { chart } from './chart';
import { conch } from './conch';
import { crystal } from './crystal';
import { dusk } from './dusk';
import { flags } from './flags';
import { rope } from './rope';
import { slipway } from './slipway';
import { harbourMark } from './harbourMark';
import { lamps } from './lamps';

/** Things of the stock that are made by code, for the demo show and for trying things out. */
export const MADE = [
  ...(['conch', 'buoy', 'slipway', 'crystal', 'chart', 'flags'] as const),
  ...(['rope', 'harbourMark', 'lamps', 'dusk'] as const),
] as const;
export type Made = (typeof MADE)[number];

const MAKERS: Record<Made, () => StockData> = {
  conch,
  buoy,
  slipway,
  crystal,
  flags,
  dusk,
  chart,
  rope,
  harbourMark,
  lamps,
};
const ready = new Map<Made, StockData>();

/** The same object each time. */
export function made(name: Made): StockData {
  let data = ready.get(name);
  if (!data) ready.set(name, (data = MAKERS[name]()));
  return data;
}
