import type { MediumSpace } from '../../language/mediumSpace';

/**
 * How the cells of a medium lie in memory. Each plane of numbers has a rim of one cell round the cells, so that what
 * is beside a cell is there for all of them: cell (column, line), both from 1, is at line × stride + column.
 */

/** The cells of a medium, or of a coarser grid over them. */
export interface Level {
  columns: number;
  lines: number;
  /** Numbers in a row; a multiple of 4. */
  stride: number;
  /** Numbers in a plane. */
  words: number;
}

export type Edges = MediumSpace['edges'];

/** Most cells in a line. */
const MOST_COLUMNS = 4096;
/** Grids are made coarser until a side is no longer than this. */
const COARSEST = 4;

export function levelOf(columns: number, lines: number): Level {
  const stride = (columns + 2 + 3) & ~3;
  // One more row behind the rim, where kernels that run over the rim look for what is above.
  return { columns, lines, stride, words: stride * (lines + 3) + 4 };
}

/** The grid and ever coarser ones, each with half the cells along a side. */
export function levelsOf(columns: number, lines: number, edges: Edges): Level[] {
  // Half a cell that hangs over an open edge has its middle on it, where there is no pressure: it is part of the rim.
  const half = (n: number): number => (edges === 'open' ? Math.floor(n / 2) : Math.ceil(n / 2));
  const levels = [levelOf(columns, lines)];
  for (;;) {
    const { columns: x, lines: y } = levels.at(-1)!;
    // Where edges go round, a cell that hangs over one would lie over its neighbours: only the last grid has an odd side.
    const odd = edges === 'wrap' && (x % 2 === 1 || y % 2 === 1);
    if (Math.min(x, y) <= COARSEST || odd) return levels;
    levels.push(levelOf(half(x), half(y)));
  }
}

/** Lanes of the rows with cells and of the rim above them, where faces and what is copied stand. */
export function lanesOf({ stride, lines }: Level): [begin: number, end: number] {
  return [stride, stride * (lines + 2)];
}

/** Cells along the sides for so many lines: halves of the sides are whole at first. */
export function cellsFor(
  lines: number,
  aspect: number,
  edges: Edges,
): { columns: number; lines: number } {
  const unit = edges === 'wrap' ? 32 : 4;
  const whole = (n: number): number => Math.max(unit, unit * Math.round(n / unit));
  const up = whole(lines);
  return { lines: up, columns: Math.min(MOST_COLUMNS, whole(up * aspect)) };
}
