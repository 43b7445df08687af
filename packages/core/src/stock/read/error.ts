/** Says what is wrong with a file of the stock, and where. */
export class StockError extends Error {
  override readonly name = 'StockError';

  constructor(
    readonly file: string,
    readonly problem: string,
  ) {
    super(`${file}: ${problem}.`);
  }
}
