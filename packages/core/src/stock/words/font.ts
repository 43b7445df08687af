import type { Font, FontCollection } from 'fontkit';
import { StockError } from '../read/error';
import type { FontStock } from '../types';

/** Tables of a font that fontkit reads beside what is public. */
interface Tables {
  directory: { tables: Record<string, { offset: number; length: number; compLength?: number }> };
}

/** Letters of colour pictures, in one of the ways there are (OpenType 1.9.1). */
const PICTURES = ['CBDT', 'sbix', 'EBDT', 'SVG '];

/**
 * Opens a font: TrueType or OpenType, also packed as WOFF or WOFF 2.
 * @throws StockError where it is cut off, damaged, or has no outlines
 */
export async function openFont(name: string, bytes: Uint8Array): Promise<Font> {
  const { create } = await import('fontkit');
  const font = attempt(name, () => create(bytes as Buffer));
  if (!isOne(font)) {
    throw new StockError(name, 'it holds several fonts; save the one that is wanted by itself');
  }
  checkWhole(name, font, bytes.length);
  const { tables } = font.directory;
  const has = (table: string): boolean => Object.hasOwn(tables, table);
  if (!['glyf', 'CFF ', 'CFF2'].some(has)) {
    const why = PICTURES.some(has) ? 'only pictures of letters' : 'no letters';
    throw new StockError(name, `there are ${why} in it; words need a font with outlines`);
  }
  // What is damaged within tables shows when they are read.
  attempt(name, () => {
    const letter = font.characterSet.find((c) => c > 32) ?? 65;
    return [font.unitsPerEm, font.ascent, font.layout(String.fromCodePoint(letter)).glyphs];
  });
  if (!(font.unitsPerEm > 0)) throw new StockError(name, 'its em has no size; it is damaged');
  return font;
}

function isOne(font: Font | FontCollection): font is Font & Tables {
  return 'directory' in font;
}

/** A font's file as a thing of the stock. */
export async function fontOf(name: string, bytes: Uint8Array): Promise<FontStock> {
  const font = await openFont(name, bytes);
  const family = font.fullName || font.familyName || name;
  return { type: 'font', family, letters: font.characterSet.length, bytes };
}

/** Each table of a font stands within the file; one that was cut off has some beyond its end. */
function checkWhole(name: string, { directory }: Tables, bytes: number): void {
  for (const [tag, { offset, length, compLength }] of Object.entries(directory.tables)) {
    const end = offset + (compLength ?? length);
    if (end <= bytes) continue;
    const [wanted, there] = [end, bytes].map((n) => n.toLocaleString('en-GB'));
    const message = `it is cut off: its table '${tag}' ends at byte ${wanted!}, the file at ${there!}`;
    throw new StockError(name, message);
  }
}

/** The result of reading a font, or an error in words of ours. */
export function attempt<T>(name: string, read: () => T): T {
  try {
    return read();
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    throw new StockError(name, `the font cannot be read, it is damaged or cut off (${why})`);
  }
}
