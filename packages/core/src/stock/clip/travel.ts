import type { StockFiles } from '../entry';
import type { Clip, StockData } from '../types';
import { openClip, clipFileOf, type OpenClip } from '../read/clip';

/** The part of a clip that can be sent to a worker: all but the reader of its pictures. */
export function travelling(data: StockData): StockData {
  if (data.type !== 'clip' || !data.file) return data;
  return { ...data, picture: undefined as never };
}

/** A thing of the stock that was sent: a clip reads its pictures from its file here. */
export function arrived(data: StockData): StockData {
  return data.type === 'clip' && data.file ? { ...data, picture: reading(data.file) } : data;
}

/** All that a stock holds from files, as it can be sent to a worker. */
export function sentFiles(files: StockFiles): StockFiles {
  return new Map([...files].map(([hash, data]) => [hash, travelling(data)]));
}

/** The same where it has come to. */
export function arrivedFiles(files: StockFiles): StockFiles {
  return new Map([...files].map(([hash, data]) => [hash, arrived(data)]));
}

/** Pictures of a file that is opened when the first of them is asked for. */
function reading({ name, bytes }: NonNullable<Clip['file']>): Clip['picture'] {
  let open: Promise<OpenClip> | undefined;
  return async (index) => {
    // What reads files does not take memory that others may change.
    open ??= openClip(name, bytes.slice(), clipFileOf(endingOf(name), bytes)!);
    return (await open).picture(index);
  };
}

/** The ending of a file's name, behind its last dot. */
export function endingOf(name: string): string {
  return /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase() ?? '';
}
