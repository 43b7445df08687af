import { MOST_TRIANGLES } from '../places/triangleTree';
import { StockError } from './error';

/** Refuses a mesh of more triangles than can be told apart. */
export function checkTriangles(name: string, count: number): void {
  if (count <= MOST_TRIANGLES) return;
  const [all, most] = [count, MOST_TRIANGLES].map((n) => n.toLocaleString('en-GB'));
  const message = `it has ${all!} triangles, and ${most!} is the most; make it coarser first`;
  throw new StockError(name, message);
}
