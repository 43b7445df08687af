import type { Piece } from '../piece/types';
import { stockData, type StockFiles } from '../stock/entry';
import { periodOf } from '../feeds/loop';
import { aroundSeam, type Heard } from '../stock/sound/heard';
import type { StockData } from '../stock/types';
import { Scene } from './scene';
import { allHeard } from './signals';

/** Sounds of a piece that are heard anywhere between two seconds: for the sound of a video. */
export function heardBetween(
  piece: Piece,
  files: StockFiles,
  from: number,
  until: number,
): Heard[] {
  const stock = (id: string): StockData | undefined => {
    const entry = piece.stock.find((s) => s.id === id);
    return entry && stockData(entry, files);
  };
  const started = new Scene(piece, files).score?.until(until).sounds ?? [];
  const period = periodOf(piece.frame);
  const all = allHeard(piece, stock, started);
  return (period === null ? all : all.flatMap((h) => aroundSeam(h, period))).filter(
    ({ start, repeats, from: begin, to: end, until: stopped = Infinity }) =>
      start < until && stopped > from && (repeats || start + end - begin > from),
  );
}
