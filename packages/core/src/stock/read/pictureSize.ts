import { StockError } from './error';

/** Most pixels: a quarter of a gigabyte when they are unpacked. */
const MOST = 2 ** 26;

/**
 * Refuses a picture that has no pixels, or would not fit into memory.
 * @throws StockError
 */
export function checkPictureSize(name: string, width: number, height: number): void {
  if (width === 0 || height === 0) {
    throw new StockError(name, `it has ${width} × ${height} pixels, so there is no picture in it`);
  }
  if (width * height > MOST) {
    const most = MOST.toLocaleString('en-GB');
    throw new StockError(
      name,
      `it has ${width} × ${height} pixels, and ${most} in all is the most; make it smaller first`,
    );
  }
}
