import { z } from '../zod';
import { idSchema } from './id';
import { fitted } from './fit';
import { made, madeNames } from './makers';
import { outlineOfPath, PathError } from './outlinePath';
import { STOCK_TYPES, type Outline, type StockData } from './types';
import { fontFileOf, wordsSchema, type FontFile } from './words/source';

/** Checked when a file is read, by what there is then. */
const madeName = z.string().superRefine((name, context) => {
  if (madeNames().includes(name)) return;
  const message = `nothing of that name is made by code; there are ${madeNames().join(', ')}`;
  context.addIssue({ code: 'custom', message });
});
const hash = z
  .string()
  .regex(/^([0-9a-f]{16,64})?$/, 'a hash is written in hexadecimal, 16 to 64 digits')
  .prefault('');

/** A name that stays in the folder that it is looked for in, on every system. */
const fileName = z
  .string()
  .min(1)
  .max(200)
  // eslint-disable-next-line no-control-regex -- these are what it has to be free of
  .regex(/^[^/\\:\u0000-\u001f\u007f]+$/, 'is no plain file name: folders are not followed')
  .refine((name) => !/^\.+$/.test(name), 'is no file name');

/** A file of this name in the folder `stock` beside the piece; SHA-256 of what is in it, found where it is left out. */
const fromFile = { file: fileName, hash };

/** SVG path data that draws something. */
const pathData = z
  .string()
  .min(1)
  .max(200_000)
  .superRefine((data, context) => {
    try {
      drawnOutline(data);
    } catch (error) {
      if (!(error instanceof PathError)) throw error;
      context.addIssue({ code: 'custom', message: error.message });
    }
  });

/** A piece's entry for a thing of the stock: made by code, drawn or typed in the piece, or from a file. */
export const stockEntrySchema = z.strictObject({
  id: idSchema,
  name: z.string().min(1).max(120),
  type: z.enum(STOCK_TYPES),
  source: z.union([
    z.strictObject({ made: madeName }),
    /** SVG path data, in metres, y down. */
    z.strictObject({ path: pathData }),
    z.strictObject({
      ...fromFile,
      up: z.enum(['y', 'z']).optional(),
      unit: z.number().min(1e-6).max(1e6).optional(),
      size: z.number().min(1e-4).max(1e4).optional(),
    }),
    /** Typed text; an outline or a mesh. */
    wordsSchema(z.strictObject(fromFile)),
  ]),
});
export type StockEntry = z.infer<typeof stockEntrySchema>;

const drawn = new Map<string, Outline>();

function drawnOutline(path: string): Outline {
  let outline = drawn.get(path);
  if (!outline) {
    outline = outlineOfPath(path);
    // The pen makes a new path at every stroke: what was drawn before is let go.
    if (drawn.size > 32) drawn.clear();
    drawn.set(path, outline);
  }
  return outline;
}

/** Things that were read from files, by hash, and words that were laid out, by `wordsKey`. */
export type StockFiles = ReadonlyMap<string, StockData>;

/** The file that an entry is of, or that its words have their font from. */
export function fileNamed({ source }: Pick<StockEntry, 'source'>): FontFile | null {
  if ('hash' in source) return source;
  return 'words' in source ? fontFileOf(source) : null;
}

/** The same entry with what is known now of that file. */
export function withFile(entry: StockEntry, file: FontFile): StockEntry {
  const { source } = entry;
  if ('hash' in source) return { ...entry, source: { ...source, ...file } };
  return 'words' in source ? { ...entry, source: { ...source, font: file } } : entry;
}

/** Key of words that were laid out: all that they depend on. */
export function wordsKey({ type, source }: Pick<StockEntry, 'type' | 'source'>): string {
  return `words ${JSON.stringify([type, source])}`;
}

/** Whether what an entry is made from is at hand, of which there can be none otherwise. */
export function atHand(entry: StockEntry, files: StockFiles): boolean {
  const { source } = entry;
  return 'words' in source
    ? files.has(wordsKey(entry))
    : 'hash' in source && files.has(source.hash);
}

/** The data of an entry, the same object each time; undefined where its file is not at hand. */
export function stockData(entry: StockEntry, files: StockFiles): StockData | undefined {
  const { source } = entry;
  if ('made' in source) return made(source.made);
  if ('hash' in source) {
    const data = files.get(source.hash);
    // The sound of a clip is a thing of its own.
    if (entry.type === 'sound' && data?.type === 'clip') return data.sound;
    return data && fitted(data, source);
  }
  if ('words' in source) return files.get(wordsKey(entry));
  return drawnOutline(source.path);
}
