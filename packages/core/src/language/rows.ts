import type { Expr } from '@vast-swarm/kernel';

/** The row and the column of a lane, where each row takes `stride` lanes; `inverse` is 1 / stride. */
export function rowOf(lane: Expr, stride: Expr, inverse: Expr): { row: Expr; column: Expr } {
  // The quotient in single precision is at most one off; the rest tells which way.
  const guess = lane.toFloat().mul(inverse).floor().toInt();
  const rest = lane.sub(guess.mul(stride));
  const row = rest.lt(0).select(guess.sub(1), rest.ge(stride).select(guess.add(1), guess));
  return { row, column: lane.sub(row.mul(stride)) };
}
