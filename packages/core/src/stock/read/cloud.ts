import Papa from 'papaparse';
import { toLinear } from '../../feeds/colour';
import { COLUMNS } from '../particleColumns';
import type { Cloud } from '../types';
import { StockError } from './error';

const MOST = 5_000_000;
const EVERY = 200_000;

/** Which columns hold what; colours by red, green, blue, or none. */
interface Columns {
  place: [number, number, number];
  colour: [number, number, number] | null;
  /** Whether colours are linear light, as in tables of our own particles. */
  linear: boolean;
}

function columnsOf(head: readonly string[]): Columns | null {
  const at = (...names: string[]): number => head.findIndex((h) => names.includes(h));
  const place = [at('x', 'px'), at('y', 'py'), at('z', 'pz')];
  if (place.some((c) => c < 0)) return null;
  const colour = [at('r', 'red'), at('g', 'green'), at('b', 'blue')];
  return {
    place: place as Columns['place'],
    colour: colour.some((c) => c < 0) ? null : (colour as Columns['place']),
    linear: COLUMNS.every((own) => head.includes(own)),
  };
}

/**
 * The sign between the columns: a semicolon or a tab where there is one, else a comma, else spaces. Beside the first
 * two a comma can stand before decimals.
 */
function delimiterOf(text: string): string {
  const first = /^(?!\s*(?:#|\/\/|$)).+$/m.exec(text)?.[0] ?? '';
  return [';', '\t', ','].find((d) => first.includes(d)) ?? ' ';
}

/** The rows of a text with their lines, without remarks and empty ones. */
function readRows(text: string, take: (fields: string[], line: number, at: number) => void): void {
  const delimiter = delimiterOf(text);
  const decimal = (field: string): string =>
    delimiter === ',' ? field : field.replace(/^([+-]?\d*),(\d+(e[+-]?\d+)?)$/i, '$1.$2');
  let line = 0;
  Papa.parse<string[]>(
    delimiter === ' ' ? text.replace(/^[ \t]+|[ \t]+(?=[ \t]|\r?$)/gm, '') : text,
    {
      delimiter,
      step({ data, meta }) {
        line += 1;
        const fields = data.map((f) => decimal(f.trim()));
        const [first] = fields;
        const empty = fields.every((f) => f === '');
        if (!empty && !first?.startsWith('#') && !first?.startsWith('//'))
          take(fields, line, meta.cursor);
      },
    },
  );
}

/** Gathers the points of a text, row by row. */
class Points {
  private readonly places: number[] = [];
  private readonly colours: number[] = [];
  private columns: Columns | null = null;
  private brightest = 0;

  constructor(private readonly name: string) {}

  /** Takes a row: the first tells the columns, by their names or by how many there are. */
  take(fields: readonly string[], line: number): void {
    const columns = this.columns ?? this.begin(fields, line);
    if (!columns) return;
    for (const column of columns.place) {
      const found = fields[column] || 'nothing';
      const wrong = `'${found}' in column ${column + 1} is no number`;
      this.places.push(this.number(fields[column], line, wrong));
    }
    for (const column of columns.colour ?? []) {
      const wrong = `the colour in column ${column + 1} is no number`;
      const value = this.number(fields[column], line, wrong);
      this.colours.push(value);
      this.brightest = Math.max(this.brightest, value);
    }
    if (this.places.length > 3 * MOST) {
      throw new StockError(this.name, 'it has more than 5 000 000 points; thin it out first');
    }
  }

  /** The columns, where the row is one of points already; a row of names has none. */
  private begin(fields: readonly string[], line: number): Columns | null {
    const named = columnsOf(fields.map((f) => f.toLowerCase()));
    this.columns = named ?? {
      place: [0, 1, 2],
      colour: fields.length >= 6 ? [3, 4, 5] : null,
      linear: false,
    };
    if (named) return null;
    // An XYZ file of molecules begins with a count alone; points do not.
    if (fields.length < 3) {
      const wrong = `line ${line}: three numbers a line are wanted, as 0.1 0.2 0.3`;
      throw new StockError(this.name, wrong);
    }
    return this.columns;
  }

  private number(text: string | undefined, line: number, wrong: string): number {
    const value = Number(text || NaN);
    if (!Number.isFinite(value)) throw new StockError(this.name, `line ${line}: ${wrong}`);
    return value;
  }

  get cloud(): Cloud {
    const { places, colours } = this;
    if (places.length === 0) throw new StockError(this.name, 'there are no points in it');
    const cloud: Cloud = { type: 'cloud', positions: Float32Array.from(places) };
    if (colours.length > 0) {
      const scale = this.brightest > 1 ? 1 / 255 : 1;
      const linear = this.columns?.linear ?? false;
      cloud.colours = Float32Array.from(colours, (c) =>
        linear ? c : toLinear(Math.max(0, c * scale)),
      );
    }
    return cloud;
  }
}

/**
 * Points as text: three numbers a line, and three more for red, green and blue (0 to 255, or 0 to 1),
 * with commas, semicolons, tabs or spaces between. A first line of names tells the columns.
 *
 * @throws StockError that names the line and the column
 */
export function cloudOfText(
  name: string,
  text: string,
  progress: (part: number) => void = () => undefined,
): Cloud {
  const points = new Points(name);
  readRows(text, (fields, line, at) => {
    if (line % EVERY === 0) progress(at / text.length);
    points.take(fields, line);
  });
  return points.cloud;
}
