import type { Expr } from '@vast-swarm/kernel';

/** A place in cells: the middle of the first cell from the left and from below is at (1, 1). */
export interface Spot {
  x: Expr;
  y: Expr;
}

/** The cells of a grid as i32: cell (column, line), both from 1, is at line × stride + column. */
export interface CellGrid {
  columns: Expr;
  lines: Expr;
  stride: Expr;
}

/** Where the numbers of a plane stand: in the middles of cells, or on their faces to the left or below. */
export type Lattice = 'middle' | 'left' | 'below';

export interface Around {
  lattice: Lattice;
  /** Whether an edge is followed by the opposite one. */
  wraps: boolean;
  /** Numbers of the rim count as well: it is one cell wide. */
  rim?: boolean;
}

interface Along {
  first: Expr;
  second: Expr;
  part: Expr;
}

function along(at: Expr, size: Expr, faces: boolean, { wraps, rim }: Around): Along {
  const place = faces ? at.add(0.5) : at;
  if (wraps) {
    const whole = size.toFloat();
    const low = place.floor();
    const turns = low.sub(1).div(whole).floor();
    const first = low.sub(turns.mul(whole)).toInt().max(1).min(size);
    return { first, second: first.ge(size).select(1, first.add(1)), part: place.sub(low) };
  }
  const more = rim && !faces ? 1 : 0;
  const last = size.add(faces ? 1 : more).toFloat();
  const kept = place.max(1 - more).min(last);
  const low = kept
    .floor()
    .min(last.sub(1))
    .max(1 - more);
  const first = low.toInt();
  return { first, second: first.add(1), part: kept.sub(low) };
}

/** The four numbers round a spot, left and right, below and above, with their shares of what is there. */
export function tapsAround(
  { x, y }: Spot,
  { columns, lines, stride }: CellGrid,
  how: Around,
): { taps: Expr[]; shares: Expr[] } {
  const across = along(x, columns, how.lattice === 'left', how);
  const up = along(y, lines, how.lattice === 'below', how);
  const [low, high] = [up.first.mul(stride), up.second.mul(stride)];
  const [p, q] = [across.part, up.part];
  const one = p.graph.float(1);
  const [left, below] = [one.sub(p), one.sub(q)];
  return {
    taps: [
      low.add(across.first),
      low.add(across.second),
      high.add(across.first),
      high.add(across.second),
    ],
    shares: [left.mul(below), p.mul(below), left.mul(q), p.mul(q)],
  };
}
