import { wordsKey, type StockEntry, type StockFiles } from '../entry';
import type { Mesh, Outline } from '../types';
import { fontFileOf, type WordsSource } from './source';

/** How words are laid out: here, or by somebody who is asked to. */
export type LayOut = (
  name: string,
  type: 'outline' | 'mesh',
  source: WordsSource,
  font?: Uint8Array,
) => Promise<Mesh | Outline>;

const laidOutHere: LayOut = async (...words) => (await import('./index')).wordsOf(...words);

/**
 * The files of a piece's stock, and its words beside them. Words whose font is not at hand, or that come to no letter,
 * are left out.
 *
 * @throws StockError where a font cannot be read, or words have too many triangles
 */
export async function withWords(
  entries: readonly StockEntry[],
  files: StockFiles,
  layOut: LayOut = laidOutHere,
): Promise<StockFiles> {
  const all = new Map(files);
  for (const entry of entries) {
    const { name, type, source } = entry;
    if (!('words' in source) || (type !== 'outline' && type !== 'mesh')) continue;
    const file = fontFileOf(source);
    const font = file ? files.get(file.hash) : undefined;
    if (file && font?.type !== 'font') continue;
    const bytes = font?.type === 'font' ? font.bytes : undefined;
    const data = await layOut(name, type, source, bytes);
    if (data.words!.count > 0) all.set(wordsKey(entry), data);
  }
  return all;
}
