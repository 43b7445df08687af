import { LONGEST, writeNumber, writeText } from '../decimal';

type Bytes = Uint8Array<ArrayBuffer>;

/** Numbers of as many particles, by the name of what they tell. */
export type Columns = Readonly<Record<string, ArrayLike<number>>>;

/** An attribute of a prim that changes with time. */
export interface Attribute {
  /** As `point3f[]`. */
  type: string;
  name: string;
  /** The columns that an element is made of. */
  columns: readonly string[];
  /** Whether it is a value for each particle that a renderer looks up. */
  primvar?: boolean;
}

const encode = (text: string): Bytes => new TextEncoder().encode(text);
const [OPEN, CLOSE, COMMA, BLANK] = '(), '.split('').map((c) => c.charCodeAt(0)) as [
  ...[number, number, number, number],
];

/** Elements at a time, so that no large piece of text is held for long. */
const AT_A_TIME = 2 ** 14;

/** The sample of an attribute at a frame: a line of its dictionary, piece by piece. */
export function* sampleOf(
  { columns: names }: Attribute,
  frame: number,
  columns: Columns,
): Generator<Bytes> {
  const parts = names.map((name) => columns[name]!);
  const { length } = parts[0]!;
  yield encode(`        ${String(frame)}: [`);
  for (let first = 0; first < length; first += AT_A_TIME) {
    yield elements(parts, first, Math.min(length, first + AT_A_TIME));
  }
  yield encode('],\n');
}

function elements(parts: readonly ArrayLike<number>[], first: number, last: number): Bytes {
  const out = new Uint8Array((last - first) * (parts.length * (LONGEST + 2) + 4));
  let at = 0;
  for (let i = first; i < last; i++) {
    if (i > 0) {
      out[at++] = COMMA;
      out[at++] = BLANK;
    }
    if (parts.length > 1) out[at++] = OPEN;
    parts.forEach((column, k) => {
      if (k > 0) {
        out[at++] = COMMA;
        out[at++] = BLANK;
      }
      at = writeValue(column, i, out, at);
    });
    if (parts.length > 1) out[at++] = CLOSE;
  }
  return out.subarray(0, at);
}

/** Ids are whole, and larger than single precision has them. */
function writeValue(column: ArrayLike<number>, i: number, to: Uint8Array, at: number): number {
  const value = column[i]!;
  if (!(Number.isInteger(value) && Math.abs(value) > 1e6)) return writeNumber(value, to, at);
  return writeText(String(value), to, at);
}

/** The bounds of particles at a frame, as a sample of `extent`. */
export function extentSample(frame: number, { px, py, pz, size }: Columns): Bytes {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  const places = [px!, py!, pz!];
  for (let i = 0; i < px!.length; i++) {
    places.forEach((axis, k) => {
      low[k] = Math.min(low[k]!, axis[i]! - size![i]! / 2);
      high[k] = Math.max(high[k]!, axis[i]! + size![i]! / 2);
    });
  }
  const none = px!.length === 0;
  const text = (corner: number[]): string =>
    `(${corner.map((v) => String(none ? 0 : Math.fround(v))).join(', ')})`;
  return encode(`        ${String(frame)}: [${text(low)}, ${text(high)}],\n`);
}
