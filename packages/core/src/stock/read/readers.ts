import type { StockData, StockType } from '../types';
import { clipFileOf } from './clip';
import { isJointTable, JOINT_TABLE_HEAD } from './motion/isJointTable';

/**
 * Reads a file.
 *
 * @param name the file's, for what is wrong with it
 * @param bytes all of it; not empty
 * @param progress is told the part that is done, 0 to 1, where it takes long
 * @throws StockError that says what is wrong and where
 */
export type ReadFile = (
  name: string,
  bytes: Uint8Array,
  progress: (part: number) => void,
) => StockData | Promise<StockData>;

/** A kind of file that the stock takes. */
export interface StockReader {
  /** Endings of the names of such files, behind the last dot, in small letters. */
  endings: readonly string[];
  /** The usual type of the thing that comes of one. */
  gives: StockType;
  /** Whether a file with one of the endings is of this kind, where several kinds share it; else all are. */
  recognises?: (bytes: Uint8Array, ending: string) => boolean;
  /** Loads what reads it: readers come when they are wanted. */
  load: () => Promise<ReadFile>;
}

const text = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

/** All kinds of files; of those that share an ending the first that recognises a file reads it. */
const READERS: StockReader[] = [
  {
    endings: ['obj', 'stl'],
    gives: 'mesh',
    load: async () => (await import('./geometry')).geometryOf,
  },
  { endings: ['ply'], gives: 'mesh', load: async () => (await import('./ply')).thingOfPly },
  {
    endings: ['gltf', 'glb'],
    gives: 'mesh',
    load: async () => (await import('./gltf')).thingOfGltf,
  },
  {
    endings: ['svg'],
    gives: 'outline',
    load: async () => {
      const { outlineOfSvg } = await import('./svg');
      return (name, bytes) => outlineOfSvg(name, text(bytes));
    },
  },
  {
    endings: ['gif', 'apng', 'png', 'zip', 'mp4', 'mov', 'webm'],
    gives: 'clip',
    recognises: (bytes, ending) => clipFileOf(ending, bytes) !== null,
    load: async () => (await import('./clipOrSound')).clipOrSound,
  },
  {
    endings: ['png', 'apng'],
    gives: 'picture',
    load: async () => (await import('./png')).pictureOf,
  },
  {
    endings: ['csv', 'xyz'],
    gives: 'motion',
    recognises: (bytes) => isJointTable(text(bytes.subarray(0, JOINT_TABLE_HEAD))),
    load: async () => {
      const { motionOfTable } = await import('./motion/jointTable');
      return (name, bytes) => motionOfTable(name, text(bytes));
    },
  },
  {
    endings: ['xyz', 'csv'],
    gives: 'cloud',
    load: async () => {
      const { cloudOfText } = await import('./cloud');
      return (name, bytes, progress) => cloudOfText(name, text(bytes), progress);
    },
  },
  {
    endings: ['cube'],
    gives: 'table',
    load: async () => {
      const { tableOfCube } = await import('./cube');
      return (name, bytes) => tableOfCube(name, text(bytes));
    },
  },
  {
    endings: ['bvh'],
    gives: 'motion',
    load: async () => {
      const { motionOfBvh } = await import('./motion/bvh');
      return (name, bytes) => motionOfBvh(name, text(bytes));
    },
  },
  {
    endings: ['wav', 'flac', 'ogg', 'oga', 'opus', 'mp3', 'm4a', 'mka'],
    gives: 'sound',
    load: async () => (await import('./sound')).soundOf,
  },
  {
    endings: ['ttf', 'otf', 'woff', 'woff2'],
    gives: 'font',
    load: async () => (await import('../words/font')).fontOf,
  },
];

/** Adds a kind of file from outside; it comes before those that are there. */
export function addReader(reader: StockReader): void {
  READERS.unshift(reader);
}

/** Endings of all files that are taken, in small letters. */
export function stockEndings(): string[] {
  return [...new Set(READERS.flatMap((r) => r.endings))];
}

/** Who reads a file; null where nobody does. */
export function readerOf(ending: string, bytes: Uint8Array): StockReader | null {
  const takes = ({ endings, recognises }: StockReader): boolean =>
    endings.includes(ending) && (recognises?.(bytes, ending) ?? true);
  return READERS.find(takes) ?? null;
}
