/** Says what is wrong with a formula, and at which character. */
export class FormulaError extends Error {
  override readonly name = 'FormulaError';

  constructor(
    readonly at: number,
    readonly problem: string,
  ) {
    super(`at character ${String(at + 1)}: ${problem}`);
  }
}
