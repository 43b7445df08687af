import type { Piece } from '../piece/types';
import { dialsOf, stockNamed } from '../piece/walk';
import { stockData, type StockFiles } from '../stock/entry';
import type { Notice } from './plan';

/** Notices of things of the stock that dials ask for and that are not at hand. */
export function missingStock(piece: Piece, files: StockFiles): Notice[] {
  const asked = new Set<string>();
  for (const { spec, value } of dialsOf(piece)) {
    for (const id of stockNamed(spec, value)) asked.add(id);
  }
  return piece.stock
    .filter((entry) => asked.has(entry.id) && !stockData(entry, files))
    .map((entry) => ({
      part: entry.id,
      message: `${entry.name} is not in the stock of this browser: import its file again. Until then it counts as empty.`,
    }));
}
