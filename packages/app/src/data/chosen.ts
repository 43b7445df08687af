import { emitterPlaces } from '@vast-swarm/core/plan';
import {
  freshIdIn,
  freshName,
  lookOfPlaces,
  swarmFrom,
  type Piece,
  type Swarm,
} from '@vast-swarm/core/piece';
import { standsInSpace, stockData, type StockEntry } from '@vast-swarm/core/stock';
import type { DialValues } from '@vast-swarm/core/kinds';
import type { StoredStock } from './db';
import { filesOf, importStock } from './stock';

/** Settings that come with a thing of the stock when it is chosen in a piece. */

/** Files come in all measures: at first a shape is brought to two metres, about the origin. */
export function entryOf(
  { file, hash, type: is, name }: StoredStock,
  type = is,
): Omit<StockEntry, 'id'> {
  const source = standsInSpace(type) ? { file, hash, size: 2 } : { file, hash };
  return { name, type, source };
}

/** Words to begin with, which others are typed over. */
export function firstWords(
  type: 'outline' | 'mesh',
  font?: { file: string; hash: string },
): Omit<StockEntry, 'id'> {
  const source = { words: 'Saltglass', ...(font ? { font } : {}) };
  return { name: 'Words', type, source: type === 'mesh' ? { ...source, depth: 0.2 } : source };
}

/**
 * The look that fits to what an emitter of all its places is given for the first time, when `entry` goes
 * to the dial at `path`; undefined for any other dial.
 */
export async function lookOf(
  piece: Piece,
  path: readonly (string | number)[],
  entry: StockEntry,
): Promise<DialValues | undefined> {
  const [list, at, section, , key] = path as [string, number, string, string, string];
  const swarm = list === 'swarms' && section === 'emitter' ? piece.swarms[at] : undefined;
  if (swarm?.dials.when !== 'once' || swarm.follows || swarm.emitter.dials[key]) return undefined;
  const data = stockData(entry, await filesOf([entry]));
  const emitter = {
    ...swarm.emitter,
    dials: { ...swarm.emitter.dials, [key]: entry.id },
  };
  const places = emitterPlaces({ ...swarm, emitter }, (id) => (id === entry.id ? data : undefined));
  return places ? lookOfPlaces(places) : undefined;
}

/** So many so small particles tell letters a metre high. */
const LEGIBLE: DialValues = {
  rate: 9000,
  size: { feed: 'spread', from: 0.008, to: 0.03 },
};

/** Words, and a swarm that is born on them. */
export async function bornFromWords(
  piece: () => Piece,
): Promise<{ entry: StockEntry; swarm: Swarm }> {
  const { swarms } = piece();
  const entry = { ...firstWords('mesh'), id: freshIdIn(piece(), 'stock', 'words') };
  const data = stockData(entry, await filesOf([entry]))!;
  const swarm = swarmFrom(entry.id, data, swarms)!;
  Object.assign(swarm.dials, LEGIBLE);
  if ('speed' in swarm.launch.dials) swarm.launch.dials.speed = 0.03;
  return { entry, swarm: { ...swarm, name: freshName(entry.name, swarms) } };
}

/**
 * Takes a file into the stock, and makes a swarm that is born from it; none from a sound, which is heard. A clip
 * may bring one too.
 *
 * @throws Error when it cannot be read, or nothing can be born from such a file
 */
export async function bornFromFile(
  file: File,
  piece: () => Piece,
): Promise<{ entry: StockEntry; swarm: Swarm | null; heard: StockEntry | null }> {
  const item = await importStock(file);
  const { swarms } = piece();
  const { file: name, hash } = item;
  const chosen = item.type === 'font' ? firstWords('mesh', { file: name, hash }) : entryOf(item);
  const entry = { ...chosen, id: freshIdIn(piece(), 'stock', item.type) };
  if (item.type === 'sound') return { entry, swarm: null, heard: entry };
  const data = stockData(entry, await filesOf([entry]));
  const swarm = data && swarmFrom(entry.id, data, swarms);
  if (!swarm) {
    throw new Error(`${file.name} is a ${item.type}: nothing can be born from it.`);
  }
  const sound = { ...entryOf(item, 'sound'), id: freshIdIn(piece(), 'stock', 'sound') };
  return {
    entry,
    swarm: { ...swarm, name: freshName(item.name, swarms) },
    heard: item.heard ? sound : null,
  };
}
