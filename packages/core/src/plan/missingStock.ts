import type { Piece } from '../piece/types';
import { dialsOf, stockNamed } from '../piece/walk';
import { fileNamed, stockData, type StockEntry, type StockFiles } from '../stock/entry';
import type { Notice } from './plan';

/** Notices of things of the stock that dials ask for and that are not at hand, or not whole, or not all read. */
export function missingStock(piece: Piece, files: StockFiles): Notice[] {
  const asked = new Set<string>();
  for (const { spec, value } of dialsOf(piece)) {
    for (const id of stockNamed(spec, value)) asked.add(id);
  }
  return (
    piece.stock
      // What code makes is always at hand, and may take a while to be made.
      .filter((entry) => asked.has(entry.id) && !('made' in entry.source))
      .flatMap((entry) => {
        const message = whatIsMissing(entry, files);
        return message === null ? [] : [{ part: entry.id, message }];
      })
  );
}

/** Letters of a text that are named before it is only said how many there are. */
const NAMED = 12;

function whatIsMissing(entry: StockEntry, files: StockFiles): string | null {
  const { name, source } = entry;
  const data = stockData(entry, files);
  if (data && 'words' in data && data.words && data.words.lacks.length > 0) {
    const { lacks } = data.words;
    const named = lacks.slice(0, NAMED).join(' ');
    const more = lacks.length > NAMED ? ` and ${String(lacks.length - NAMED)} more` : '';
    return `The font of ${name} has no letters for ${named}${more}: they are left out. Take a font that has them.`;
  }
  if (data?.type === 'clip' && data.unheard !== undefined) {
    return `The sound of ${name} is not heard: ${data.unheard}.`;
  }
  if (data) return null;
  const file = fileNamed(entry);
  if (!('words' in source)) {
    return `${name} is not in the stock of this browser: import its file again. Until then it counts as empty.`;
  }
  if (file && !files.has(file.hash)) {
    return `The font of ${name}, ${file.file}, is not in the stock of this browser: import it again, or choose another one.`;
  }
  return source.words.trim() === ''
    ? `${name} has no letters yet: type some.`
    : `The font of ${name} has none of its letters: choose another one.`;
}
