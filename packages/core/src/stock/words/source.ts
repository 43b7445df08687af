import { z } from '../../zod';

/** Fonts that are shipped. */
export const FONTS = { plain: 'Plain', heavy: 'Heavy', even: 'Even widths' } as const;
export type ShippedFont = keyof typeof FONTS;

/** Most letters of a text, in UTF-16 units. */
export const MOST_LETTERS = 10_000;

/** How far lines of a text are read into: each with how it is laid out where nothing is said. */
export const WORDS_DEFAULTS = {
  font: 'plain',
  size: 1,
  align: 'middle',
  tracking: 0,
  leading: 1.2,
  depth: 0,
} as const;

/**
 * Words of the stock. Of an entry that is an outline they are lines; of one that is a mesh areas, or solids where there
 * is a depth. The middle of the block is the origin; letters stand upright in the plane z = 0.
 *
 * @param fontFile a file with a hash, as entries of files have it
 */
export function wordsSchema<F extends z.ZodType>(fontFile: F) {
  return z.strictObject({
    /** Lines end with a line feed. */
    words: z.string().max(MOST_LETTERS, `${String(MOST_LETTERS / 1000)},000 letters at most`),
    font: z.union([z.enum(Object.keys(FONTS) as [ShippedFont]), fontFile]).optional(),
    /** Metres of the em, which the size of type counts. */
    size: z.number().min(1e-3).max(1e4).optional(),
    /** How lines of different lengths stand to each other. */
    align: z.enum(['left', 'middle', 'right']).optional(),
    /** More room between letters, in ems. */
    tracking: z.number().min(-1).max(10).optional(),
    /** From line to line, in ems. */
    leading: z.number().min(0).max(10).optional(),
    /** Metres along z, of a mesh. */
    depth: z.number().min(0).max(1e4).optional(),
  });
}

/** A font out of a file: its name in the folder `stock`, and the SHA-256 of what is in it. */
export interface FontFile {
  file: string;
  hash: string;
}

export interface WordsSource {
  words: string;
  font?: ShippedFont | FontFile | undefined;
  size?: number | undefined;
  align?: 'left' | 'middle' | 'right' | undefined;
  tracking?: number | undefined;
  leading?: number | undefined;
  depth?: number | undefined;
}

/** The file that words take their font from, where it is not shipped. */
export function fontFileOf({ font }: WordsSource): FontFile | null {
  return typeof font === 'object' ? font : null;
}
