import type { LookupTable } from '../types';
import { StockError } from './error';

/** The greatest number of half precision (IEEE 754): what tables are made with. */
const MOST_LIGHT = 65_504;

type Triple = [number, number, number];

/**
 * Reads a three-dimensional lookup table in the .cube text format (Adobe, "Cube LUT Specification
 * 1.0", 2013).
 *
 * @throws StockError that names the line
 */
export function tableOfCube(name: string, text: string): LookupTable {
  let size = 0;
  let [low, high]: [Triple, Triple] = [
    [0, 0, 0],
    [1, 1, 1],
  ];
  const values: number[] = [];
  text.split(/\r?\n/).forEach((raw, i) => {
    const line = raw.trim();
    const fail = (why: string): never => {
      throw new StockError(name, `line ${String(i + 1)}: ${why}`);
    };
    if (line === '' || line.startsWith('#')) return;
    const [word, ...rest] = line.split(/\s+/) as [string, ...string[]];
    const numbers = (parts: string[]): Triple => {
      const found = parts.map(Number);
      if (found.length !== 3 || !found.every(Number.isFinite))
        fail('three numbers are wanted here');
      if (found.some((v) => Math.abs(v) > MOST_LIGHT)) {
        fail(`a colour beyond ${String(MOST_LIGHT)} is no light`);
      }
      return found as Triple;
    };
    if (word === 'TITLE') return;
    if (word === 'LUT_1D_SIZE') fail('this table has one dimension; wanted is LUT_3D_SIZE');
    if (word === 'LUT_3D_SIZE') {
      size = Number(rest[0]);
      if (!Number.isInteger(size) || size < 2 || size > 256)
        fail('the size is a number from 2 to 256');
    } else if (word === 'DOMAIN_MIN') low = numbers(rest);
    else if (word === 'DOMAIN_MAX') high = numbers(rest);
    else if (/^[A-Z_]/.test(word)) fail(`'${word.slice(0, 40)}' is not known`);
    else {
      if (size === 0) fail('colours come after LUT_3D_SIZE');
      values.push(...numbers([word, ...rest]));
    }
  });
  if (size === 0) throw new StockError(name, 'there is no LUT_3D_SIZE in it');
  const wanted = size ** 3;
  if (values.length !== 3 * wanted) {
    const there = Math.floor(values.length / 3);
    throw new StockError(
      name,
      `it has ${String(there)} colours; a table of ${String(size)} has ${String(wanted)}`,
    );
  }
  if (low.some((l, k) => l >= high[k]!))
    throw new StockError(name, 'DOMAIN_MIN is not below DOMAIN_MAX');
  return { type: 'table', size, values: Float32Array.from(values), low, high };
}
