import {
  arrived,
  checkStockSize,
  peaksOf,
  secondsOf,
  stockEndings,
  type Peaks,
  type Sound,
  type StockData,
  fileNamed,
  withWords,
  type StockEntry,
  type StockFiles,
  type StockType,
} from '@vast-swarm/core/stock';
import { transfer } from 'comlink';
import type { ReadFile } from '../reading/stockWorker';
import { WAVE } from '../reading/wave';
import { inStockWorker } from '../reading/inStockWorker';
import { laidOutWords } from '../reading/laidOutWords';
import { library, type StoredStock } from './db';
import { noticed } from '../store/noticeSlice';
import { store } from '../store/store';
import { whyNotKept } from './trouble';

export const STOCK_ACCEPT = [...stockEndings(), 'jpg', 'jpeg', 'webp']
  .map((ending) => `.${ending}`)
  .join(',');

/** Reads a file in a worker of its own, so that the picture goes on meanwhile. */
function readInWorker(
  name: string,
  bytes: ArrayBuffer,
  progress: (part: number) => void,
): Promise<ReadFile> {
  return inStockWorker(
    name,
    ({ call, called }, tell) => call.read(name, transfer(bytes, [bytes]), called(tell)),
    progress,
  );
}

/** Waveforms of sounds that were read, in WAVE stretches: found beside the interface, since sounds can be long. */
const waves = new WeakMap<Sound, Peaks>();

export function waveOf(sound: Sound): Peaks {
  return waves.get(sound) ?? peaksOf(sound, 0, secondsOf(sound), WAVE);
}

function keep({ hash, data: sent, wave }: ReadFile): StockData {
  const data = arrived(sent);
  ready.set(hash, data);
  if (data.type === 'sound' && wave) waves.set(data, wave);
  return data;
}

/** Data that has been read, by hash; files are read once a session. */
const ready = new Map<string, StockData>();

/**
 * Takes a file into the stock. What is wrong with one that cannot be taken is kept, to be shown in
 * the stock view.
 */
export async function importStock(
  file: File,
  progress: (part: number) => void = () => undefined,
): Promise<StoredStock> {
  try {
    checkStockSize(file.name, file.size);
    const read = await readInWorker(file.name, await file.arrayBuffer(), progress);
    const item: StoredStock = {
      hash: read.hash,
      type: read.data.type,
      about: read.about,
      heard: read.data.type === 'clip' && read.data.sound !== undefined,
      // Two files of one name can stand in one folder.
      file: `${read.hash.slice(0, 8)}-${read.file}`,
      name: file.name.replace(/\.[a-z0-9]+$/i, '').slice(0, 120) || 'Unnamed',
      bytes: new Blob([read.bytes as Uint8Array<ArrayBuffer>]),
      added: Date.now(),
    };
    keep(read);
    try {
      await library.stock.put(item);
      await library.failures.delete(file.name);
    } catch (error) {
      // A clip is too large to be in the page alone.
      if (item.type === 'clip') {
        const why = `the browser's storage ${whyNotKept(error)}; the clip was not taken`;
        throw new Error(`${file.name}: ${why}.`, { cause: error });
      }
      const message = `The browser's storage ${whyNotKept(error)}: ${item.name} is in this page alone, and gone when it is closed.`;
      store.dispatch(noticed({ key: `stock ${item.name}`, kind: 'wrong', message }));
    }
    return item;
  } catch (error) {
    const problem = error instanceof Error ? error.message : String(error);
    await library.failures.put({ file: file.name, problem, added: Date.now() }).catch(() => '');
    throw error;
  }
}

/** Types that a stored file can have in a piece: a clip with a sound has either. */
export function typesOf({ type, heard }: StoredStock): StockType[] {
  return heard ? [type, 'sound'] : [type];
}

/** The data of a stored file. */
export async function stockOf(hash: string): Promise<StockData | undefined> {
  const known = ready.get(hash);
  if (known) return known;
  const stored = await library.stock.get(hash);
  if (!stored) return undefined;
  const bytes = await stored.bytes.arrayBuffer();
  return keep({ ...(await readInWorker(stored.file, bytes, () => undefined)), hash });
}

/** Data of all files that a piece's stock names, as far as they are in this browser, and its words. */
export async function filesOf(entries: readonly StockEntry[]): Promise<StockFiles> {
  const files = new Map<string, StockData>();
  for (const named of entries.map(fileNamed)) {
    const data = named && (await stockOf(named.hash));
    if (data) files.set(named.hash, data);
  }
  try {
    return await withWords(entries, files, laidOutWords);
  } catch (error) {
    if (!(error instanceof Error)) throw error;
    store.dispatch(noticed({ key: 'words', kind: 'wrong', message: error.message }));
    return files;
  }
}
