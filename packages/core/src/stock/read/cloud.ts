import { toLinear } from '../../feeds/colour';
import type { Cloud } from '../types';
import { StockError } from './error';

const MOST = 5_000_000;
const EVERY = 200_000;

/** Which columns hold what; colours by red, green, blue, or none. */
interface Columns {
  place: [number, number, number];
  colour: [number, number, number] | null;
}

function columnsOf(head: readonly string[]): Columns | null {
  const at = (...names: string[]): number => head.findIndex((h) => names.includes(h));
  const place = [at('x', 'px'), at('y', 'py'), at('z', 'pz')];
  if (place.some((c) => c < 0)) return null;
  const colour = [at('r', 'red'), at('g', 'green'), at('b', 'blue')];
  return {
    place: place as Columns['place'],
    colour: colour.some((c) => c < 0) ? null : (colour as Columns['place']),
  };
}

/**
 * Points as text: three numbers a line, and three more for red, green and blue (0 to 255, or 0 to 1),
 * with commas, semicolons, tabs or spaces between. A first line of names tells the columns.
 */
export function cloudOfText(
  name: string,
  text: string,
  progress: (part: number) => void = () => undefined,
): Cloud {
  const places: number[] = [];
  const colours: number[] = [];
  let columns: Columns | null = null;
  let [start, line] = [0, 0];
  let brightest = 0;
  while (start < text.length) {
    let end = text.indexOf('\n', start);
    if (end < 0) end = text.length;
    const row = text.slice(start, end).trim();
    start = end + 1;
    line += 1;
    if (line % EVERY === 0) progress(start / text.length);
    if (!row || row.startsWith('#') || row.startsWith('//')) continue;
    const fields = row.split(/[,;\s]+/);
    if (!columns) {
      const words = fields.map((f) => f.replace(/"/g, '').toLowerCase());
      const named = columnsOf(words);
      columns = named ?? {
        place: [0, 1, 2],
        colour: fields.length >= 6 ? [3, 4, 5] : null,
      };
      if (named) continue;
      // An XYZ file of molecules begins with a count alone; points do not.
      if (fields.length < 3) {
        throw new StockError(name, `line ${line}: three numbers a line are wanted, as 0.1 0.2 0.3`);
      }
    }
    const number = (column: number): number => Number(fields[column] || NaN);
    for (const column of columns.place) {
      const value = number(column);
      if (!Number.isFinite(value)) {
        const found = fields[column] ?? 'nothing';
        throw new StockError(name, `line ${line}: '${found}' in column ${column + 1} is no number`);
      }
      places.push(value);
    }
    if (columns.colour) {
      for (const column of columns.colour) {
        const value = number(column);
        if (!Number.isFinite(value)) {
          throw new StockError(
            name,
            `line ${line}: the colour in column ${column + 1} is no number`,
          );
        }
        colours.push(value);
        brightest = Math.max(brightest, value);
      }
    }
    if (places.length > 3 * MOST) {
      throw new StockError(name, 'it has more than 5 000 000 points; thin it out first');
    }
  }
  if (places.length === 0) throw new StockError(name, 'there are no points in it');
  const cloud: Cloud = { type: 'cloud', positions: Float32Array.from(places) };
  if (colours.length > 0) {
    const scale = brightest > 1 ? 1 / 255 : 1;
    cloud.colours = Float32Array.from(colours, (c) => toLinear(Math.max(0, c * scale)));
  }
  return cloud;
}
