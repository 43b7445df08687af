import type { Formula, FunctionName, Name, Operator } from './parse';

/** Arithmetic of a formula: with plain numbers on the host, with nodes of a graph in a kernel. */
export interface Algebra<T> {
  number(value: number): T;
  name(name: Name): T;
  signal(id: string): T;
  /** A picture where the particle was born, or at a place. */
  map(id: string, at: readonly [T, T] | null): T;
  negate(a: T): T;
  not(a: T): T;
  /** `yes` where `test` is not 0. */
  choose(test: T, yes: T, no: T): T;
  binary: Record<Operator, (a: T, b: T) => T>;
  call: Record<FunctionName, (...args: T[]) => T>;
}

export function evaluate<T>(formula: Formula, algebra: Algebra<T>): T {
  const value = (f: Formula): T => evaluate(f, algebra);
  switch (formula.type) {
    case 'number':
      return algebra.number(formula.value);
    case 'name':
      return algebra.name(formula.name);
    case 'signal':
      return algebra.signal(formula.id);
    case 'map':
      return algebra.map(formula.id, formula.at && [value(formula.at[0]), value(formula.at[1])]);
    case 'call':
      return algebra.call[formula.name](...formula.args.map(value));
    case 'unary': {
      const argument = value(formula.argument);
      return formula.operator === '-' ? algebra.negate(argument) : algebra.not(argument);
    }
    case 'binary':
      return algebra.binary[formula.operator](value(formula.left), value(formula.right));
    case 'choice':
      return algebra.choose(value(formula.test), value(formula.yes), value(formula.no));
  }
}
