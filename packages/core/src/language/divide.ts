import type { Expr } from '@vast-swarm/kernel';

/**
 * Whole quotient and rest of i32 numbers of 0 and more. The quotient is guessed in single precision
 * and put right: once for the guess's own error, once for the last step.
 */
export function divide(a: Expr, by: Expr): { quotient: Expr; rest: Expr } {
  const inverse = by.graph.float(1).div(by.toFloat());
  const guess = (n: Expr): Expr => n.toFloat().mul(inverse).floor().toInt();
  const first = guess(a);
  const left = a.sub(first.mul(by));
  const second = first.add(guess(left));
  const rest = a.sub(second.mul(by));
  const low = rest.lt(0);
  const high = rest.ge(by);
  const quotient = low.select(second.sub(1), high.select(second.add(1), second));
  return { quotient, rest: a.sub(quotient.mul(by)) };
}
