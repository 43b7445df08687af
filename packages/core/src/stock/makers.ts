import type { StockData, StockType } from './types';

/** How a thing of the stock is made by code. */
export interface Maker {
  title: string;
  type: StockType;
  make: () => StockData;
}

const makers = new Map<string, Maker>();
const ready = new Map<string, StockData>();

/**
 * Offers a thing of the stock that is made by code, under a name that piece files can use. The stock
 * itself knows none: content comes from rooms above.
 */
export function offerMade(name: string, maker: Maker): void {
  makers.set(name, maker);
}

/** Names of all that is made by code. */
export function madeNames(): string[] {
  return [...makers.keys()];
}

/** The title of a made thing. */
export function madeTitle(name: string): string {
  return makers.get(name)?.title ?? name;
}

/** The type of a made thing, without making it. */
export function madeType(name: string): StockType | undefined {
  return makers.get(name)?.type;
}

/**
 * Content that is made under a name: the same object each time.
 * @throws Error where nothing is
 */
export function made(name: string): StockData {
  const known = ready.get(name);
  if (known) return known;
  const maker = makers.get(name);
  if (!maker) throw new Error(`Nothing is made by code under the name '${name}'`);
  const data = maker.make();
  ready.set(name, data);
  return data;
}
