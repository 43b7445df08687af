import { toLinear } from '../../feeds/colour';
import type { Cloud, Mesh } from '../types';
import { StockError } from './error';
import { joined } from './weld';

/** Polygon files (G. Turk, "The PLY Polygon File Format", Stanford 1994), as text or binary. */

/** Bytes of the numbers of the format. */
const SIZES = { char: 1, uchar: 1, short: 2, ushort: 2, int: 4, uint: 4, float: 4, double: 8 };
type NumberType = keyof typeof SIZES;
/** Full scale of colours that are whole numbers. */
const FULL: Partial<Record<NumberType, number>> = {
  char: 127,
  uchar: 255,
  short: 32767,
  ushort: 65535,
};

/** Types by their names, older and newer ones. */
const TYPES = new Map<string, NumberType>([
  ...(Object.keys(SIZES) as NumberType[]).map((type) => [type, type] as const),
  ...([
    ['int8', 'char'],
    ['uint8', 'uchar'],
    ['int16', 'short'],
    ['uint16', 'ushort'],
  ] as const),
  ...([
    ['int32', 'int'],
    ['uint32', 'uint'],
    ['float32', 'float'],
    ['float64', 'double'],
  ] as const),
]);

interface Property {
  name: string;
  type: NumberType;
  /** Of a list: the type of its length. */
  length: NumberType | null;
}

interface Element {
  name: string;
  count: number;
  properties: Property[];
}

interface Head {
  form: string;
  elements: Element[];
  /** Whether colours are linear light, as our own files say in a remark. */
  linear: boolean;
  /** Where the data begins, in bytes, and the lines before it. */
  begin: number;
  lines: number;
}

function headOf(name: string, bytes: Uint8Array): Head {
  // A letter for each byte, so that places in it are places in the file.
  const text = Array.from(bytes.subarray(0, 65_536), (b) => String.fromCharCode(b)).join('');
  const end = /^end_header\r?\n/m.exec(text);
  if (!text.startsWith('ply') || !end) {
    throw new StockError(
      name,
      "the PLY cannot be read (it has no head from 'ply' to 'end_header')",
    );
  }
  const begin = end.index + end[0].length;
  const lines = text.slice(0, begin).split('\n');
  const head: Head = { form: '', elements: [], linear: false, begin, lines: lines.length - 1 };
  lines.forEach((raw, i) => {
    const [word, ...rest] = raw.trim().split(/\s+/);
    const fail = (why: string): never => {
      throw new StockError(name, `line ${String(i + 1)}: ${why}`);
    };
    if (word === 'format') head.form = rest[0] ?? '';
    else if (word === 'comment' && /linear light/.test(raw)) head.linear = true;
    else if (word === 'element') {
      const count = Number(rest[1]);
      if (!Number.isInteger(count) || count < 0) fail(`how many '${rest[0] ?? ''}' is no number`);
      head.elements.push({ name: rest[0]!, count, properties: [] });
    } else if (word === 'property') {
      const list = rest[0] === 'list';
      const length = list ? TYPES.get(rest[1] ?? '') : null;
      const [type, own] = list ? rest.slice(2) : rest;
      const known = TYPES.get(type ?? '');
      if (length === undefined || !known || !own) {
        return fail('a property is a known type and a name');
      }
      const to = head.elements.at(-1) ?? fail('a property comes before any element');
      to.properties.push({ name: own, type: known, length });
    }
  });
  if (!['ascii', 'binary_little_endian', 'binary_big_endian'].includes(head.form)) {
    throw new StockError(name, `its format '${head.form.slice(0, 40)}' is not known`);
  }
  return head;
}

function cutOff(name: string): StockError {
  return new StockError(name, 'it ends before all that its head tells');
}

/** Gives the numbers of a PLY one after the other; `where` says where it stands, for errors. */
interface Numbers {
  next: (type: NumberType) => number;
  /** A row begins. */
  row: () => void;
  where: () => string;
}

function textNumbers(name: string, bytes: Uint8Array, head: Head): Numbers {
  const lines = new TextDecoder().decode(bytes.subarray(head.begin)).split('\n');
  let line = -1;
  let words: string[] = [];
  let at = 0;
  const where = (): string => `line ${String(head.lines + line + 1)}`;
  return {
    where,
    row() {
      do line += 1;
      while (line < lines.length && lines[line]!.trim() === '');
      if (line >= lines.length) throw cutOff(name);
      words = lines[line]!.trim().split(/\s+/);
      at = 0;
    },
    next() {
      const value = Number(words[at] ?? NaN);
      if (Number.isNaN(value)) {
        throw new StockError(
          name,
          `${where()}: '${(words[at] ?? 'nothing').slice(0, 40)}' is no number`,
        );
      }
      at += 1;
      return value;
    },
  };
}

function binaryNumbers(name: string, bytes: Uint8Array, head: Head): Numbers {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const little = head.form === 'binary_little_endian';
  const read: Readonly<Record<NumberType, (at: number) => number>> = {
    char: (at) => view.getInt8(at),
    uchar: (at) => view.getUint8(at),
    short: (at) => view.getInt16(at, little),
    ushort: (at) => view.getUint16(at, little),
    int: (at) => view.getInt32(at, little),
    uint: (at) => view.getUint32(at, little),
    float: (at) => view.getFloat32(at, little),
    double: (at) => view.getFloat64(at, little),
  };
  let at = head.begin;
  let row = 0;
  return {
    where: () => `row ${String(row)}`,
    row: () => void (row += 1),
    next(type) {
      const size = SIZES[type];
      if (at + size > bytes.length) throw cutOff(name);
      const value = read[type](at);
      at += size;
      return value;
    },
  };
}

/** Properties of vertices that are read, by the names that programs give them. */
const COLOURS = [
  ['red', 'r', 'diffuse_red'],
  ['green', 'g', 'diffuse_green'],
  ['blue', 'b', 'diffuse_blue'],
];
const COORDINATES = [
  ['s', 'u', 'texture_u', 'tx'],
  ['t', 'v', 'texture_v', 'ty'],
];

interface Read {
  columns: Map<string, Float64Array>;
  types: Map<string, NumberType>;
  count: number;
  triangles: number[];
}

function rowsOf(name: string, { elements }: Head, from: Numbers, most: number): Read {
  const read: Read = { columns: new Map(), types: new Map(), count: 0, triangles: [] };
  for (const { name: element, count, properties } of elements) {
    // What a head promises is not made room for before it is there.
    if (count * properties.length > most) throw cutOff(name);
    if (element === 'vertex') {
      read.count = count;
      for (const { name: own, type } of properties) {
        read.columns.set(own, new Float64Array(count));
        read.types.set(own, type);
      }
    }
    for (let i = 0; i < count; i++) {
      from.row();
      for (const { name: own, type, length } of properties) {
        if (length !== null) {
          const corners = cornersOf(name, from, from.next(length), type);
          if (element === 'face' && /^vertex_ind/.test(own)) face(name, corners, read, from);
        } else {
          const value = from.next(type);
          if (element === 'vertex') read.columns.get(own)![i] = value;
        }
      }
    }
  }
  return read;
}

/** Most corners of a polygon. */
const MOST_CORNERS = 1e5;

function cornersOf(name: string, from: Numbers, count: number, type: NumberType): number[] {
  if (!(count >= 0 && count <= MOST_CORNERS)) {
    throw new StockError(name, `${from.where()}: a list cannot have ${String(count)} entries`);
  }
  return Array.from({ length: count }, () => from.next(type));
}

/** A polygon as triangles about its first corner. */
function face(name: string, corners: readonly number[], read: Read, { where }: Numbers): void {
  const beyond = corners.find((v) => !Number.isInteger(v) || v < 0 || v >= read.count);
  if (beyond !== undefined) {
    const of = `of ${String(read.count)}`;
    throw new StockError(name, `${where()}: a face names vertex ${String(beyond)} ${of} (from 0)`);
  }
  for (let k = 2; k < corners.length; k++) {
    read.triangles.push(corners[0]!, corners[k - 1]!, corners[k]!);
  }
}

/** @throws StockError that says what is wrong, and in which line or row */
export function thingOfPly(name: string, bytes: Uint8Array): Mesh | Cloud {
  const head = headOf(name, bytes);
  const from = head.form === 'ascii' ? textNumbers : binaryNumbers;
  const read = rowsOf(name, head, from(name, bytes, head), bytes.length);
  const column = (names: readonly string[]): string | undefined =>
    names.find((n) => read.columns.has(n));
  const gathered = (names: (string | undefined)[], of: (v: number, n: string) => number) => {
    if (names.some((n) => n === undefined)) return null;
    const out = new Float32Array(names.length * read.count);
    names.forEach((n, k) => {
      read.columns.get(n!)!.forEach((v, i) => (out[names.length * i + k] = of(v, n!)));
    });
    return out;
  };
  const positions = gathered(
    ['x', 'y', 'z'].map((n) => column([n])),
    (v) => v,
  );
  if (!positions) throw new StockError(name, 'its vertices have no x, y and z');
  const shown = (v: number, n: string): number => v / (FULL[read.types.get(n)!] ?? 1);
  const colours = gathered(COLOURS.map(column), (v, n) =>
    head.linear ? v : toLinear(Math.max(0, shown(v, n))),
  );
  // It counts from the bottom; we from the top.
  const coordinates = gathered(COORDINATES.map(column), (v, n) =>
    COORDINATES[1]!.includes(n) ? 1 - v : v,
  );
  const faces = read.triangles.length > 0;
  const index = faces ? Uint32Array.from(read.triangles) : null;
  return joined([{ positions, index, colours, coordinates }], faces);
}
