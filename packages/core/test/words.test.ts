import { readFile } from 'node:fs/promises';
import {
  boundsOf,
  pointsOf,
  readStock,
  withWords,
  wordsKey,
  wordsOf,
  type Mesh,
  type Outline,
  type StockEntry,
  type WordsSource,
} from '@vast-swarm/core/stock';
import { parsePiece, pieceText } from '@vast-swarm/core/piece';
import { matched, sample } from '../src/stock/places/match';
import { isClosed } from '../src/stock/places/meshParts';
import { smallPiece } from '../../../tests/support/pieces';
import { GlyphBoxes } from './support/glyphBoxes';

const FOLDER = '/usr/share/fonts/truetype';
const DEJAVU = `${FOLDER}/dejavu/DejaVuSans.ttf`;
const EMOJI = `${FOLDER}/noto/NotoColorEmoji.ttf`;

let sans: Uint8Array;
let boxes: GlyphBoxes;
beforeAll(async () => {
  sans = new Uint8Array(await readFile(DEJAVU));
  boxes = new GlyphBoxes(sans);
});

const FILE = { file: 'DejaVuSans.ttf', hash: '' };

const outline = async (source: WordsSource): Promise<Outline> =>
  (await wordsOf('Title', 'outline', { font: FILE, ...source }, sans)) as Outline;
const mesh = async (source: WordsSource): Promise<Mesh> =>
  (await wordsOf('Title', 'mesh', { font: FILE, ...source }, sans)) as Mesh;

const width = ([low, high]: [number[], number[]]): number => high[0]! - low[0]!;
const height = ([low, high]: [number[], number[]]): number => high[1]! - low[1]!;

/** Signed area of all curves, by the shoelace. */
const areaOf = ({ curves }: Outline): number =>
  Math.abs(
    curves.reduce((sum, { points: p }) => {
      for (let i = 0; i + 3 < p.length; i += 3) sum += p[i]! * p[i + 4]! - p[i + 3]! * p[i + 1]!;
      return sum;
    }, 0) / 2,
  );

const areaOfFaces = ({ positions: p, triangles: t }: Mesh, z?: number): number => {
  let sum = 0;
  for (let i = 0; i < t.length; i += 3) {
    const [a, b, c] = [3 * t[i]!, 3 * t[i + 1]!, 3 * t[i + 2]!];
    if (z !== undefined && [a, b, c].some((v) => Math.abs(p[v + 2]! - z) > 1e-6)) continue;
    sum += (p[b]! - p[a]!) * (p[c + 1]! - p[a + 1]!) - (p[c]! - p[a]!) * (p[b + 1]! - p[a + 1]!);
  }
  return sum / 2;
};

test.each(['A', 'g', 'S', 'Q', '&', '8', '%', 'i', 'j', 'Å'])(
  "the outline of '%s' has the bounds that its font says",
  async (c) => {
    const size = 3;
    const found = boundsOf(pointsOf(await outline({ words: c, size })));
    const [x0, y0, x1, y1] = boxes.box(c);
    const metres = size / boxes.em;
    expect(width(found) / ((x1 - x0) * metres)).toBeCloseTo(1, 3);
    expect(height(found) / ((y1 - y0) * metres)).toBeCloseTo(1, 3);
  },
);

test('letters stand one behind the other by their advances, tracking between them', async () => {
  const first = async (words: string, tracking = 0): Promise<number[]> => {
    const { curves, words: lettered } = await outline({ words, tracking });
    return [...new Set(lettered!.letterOf)].map((letter) =>
      Math.min(
        ...curves.flatMap(({ points }, i) =>
          lettered!.letterOf[i] === letter ? [...points].filter((_, k) => k % 3 === 0) : [],
        ),
      ),
    );
  };
  const [a, b, c] = await first('HOH');
  const left = (l: string): number => boxes.box(l)[0] / boxes.em;
  const advance = (l: string): number => boxes.advance(l) / boxes.em;
  expect(b! - a!).toBeCloseTo(advance('H') + left('O') - left('H'), 4);
  expect(c! - a!).toBeCloseTo(advance('H') + advance('O'), 4);
  const [p, q] = await first('HOH', 0.25);
  expect(q! - p! - (b! - a!)).toBeCloseTo(0.25, 4);
});

test.each([
  ['left', 0],
  ['middle', 0.5],
  ['right', 1],
] as const)('lines stand %s, a leading apart, about the origin', async (align, part) => {
  const found = await outline({ words: 'HHHH\nH', align, leading: 2, size: 1 });
  const letters = (of: (n: number) => boolean): [number[], number[]] =>
    boundsOf(
      Float32Array.from(
        found.curves.flatMap(({ points }, i) => (of(found.words!.letterOf[i]!) ? [...points] : [])),
      ),
    );
  const [top, below] = [letters((n) => n < 4), letters((n) => n === 4)];
  expect(top[0][1]! - below[0][1]!).toBeCloseTo(2, 4);
  // From the left of the long line to that of the short one: some part of what it is shorter by.
  const shorter = (3 * boxes.advance('H')) / boxes.em;
  expect(below[0][0]! - top[0][0]!).toBeCloseTo(part * shorter, 3);
  expect((top[1][1]! + below[0][1]!) / 2).toBeCloseTo(0, 4);
  expect((top[0][0]! + top[1][0]!) / 2).toBeCloseTo(0, 2);
});

test.each(['o', 'B', '8', '%', 'é', 'Saltglass Quay'])(
  "the area of '%s' is that within its lines, and its solid is closed",
  async (words) => {
    const lines = await outline({ words });
    const flat = await mesh({ words });
    expect(areaOfFaces(flat) / areaOf(lines)).toBeCloseTo(1, 4);
    const solid = await mesh({ words, depth: 0.3 });
    expect(isClosed(solid)).toBe(true);
    expect(areaOfFaces(solid, 0.15) / areaOfFaces(flat)).toBeCloseTo(1, 5);
    // Volume by the divergence theorem.
    const { positions: p, triangles: t } = solid;
    let volume = 0;
    for (let i = 0; i < t.length; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => [...p.subarray(3 * t[i + k]!, 3 * t[i + k]! + 3)]);
      const [x, y, z] = [a!, b!, c!].map((v) => v) as [number[], number[], number[]];
      volume +=
        (x[0]! * (y[1]! * z[2]! - y[2]! * z[1]!) +
          x[1]! * (y[2]! * z[0]! - y[0]! * z[2]!) +
          x[2]! * (y[0]! * z[1]! - y[1]! * z[0]!)) /
        6;
    }
    expect(volume / (areaOf(lines) * 0.3)).toBeCloseTo(1, 4);
  },
);

test('strokes of a letter that lie over each other are one area', async () => {
  const { filled } = await import('../src/stock/words/fill');
  const square = (x: number): number[] => [x, 0, x + 2, 0, x + 2, 2, x, 2];
  const { triangles, edges } = filled([square(0), square(1)]);
  let area = 0;
  for (let i = 0; i < triangles.length; i += 6) {
    const [a, b, c, d, e, f] = triangles.slice(i, i + 6) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    area += ((c - a) * (f - b) - (e - a) * (d - b)) / 2;
  }
  expect(area).toBeCloseTo(6, 9);
  expect(edges).toHaveLength(1);
});

test('letters are numbered as they are read, whichever way that goes', async () => {
  const order = async (words: string): Promise<number[]> => {
    const { curves, words: lettered } = await outline({ words });
    const left = new Map<number, number>();
    curves.forEach(({ points }, i) => {
      const letter = lettered!.letterOf[i]!;
      const least = Math.min(...[...points].filter((_, k) => k % 3 === 0));
      left.set(letter, Math.min(left.get(letter) ?? Infinity, least));
    });
    return [...left].sort((a, b) => a[1] - b[1]).map(([letter]) => letter);
  };
  expect(await order('abc')).toEqual([0, 1, 2]);
  // Hebrew: the first letter stands on the right.
  expect(await order('אבג')).toEqual([2, 1, 0]);
  // A number within it is read from its left.
  expect(await order('אב 12 גד')).toEqual([5, 4, 2, 3, 1, 0]);
  expect(await order('ab אב')).toEqual([0, 1, 3, 2]);
});

test('a letter of Arabic joins its neighbours: shaping is left to the font', async () => {
  const { curves: apart } = await outline({ words: 'ب ب ب' });
  const { curves: joined } = await outline({ words: 'ببب' });
  const wide = (c: Outline['curves']): number =>
    width(boundsOf(pointsOf({ type: 'outline', curves: c })));
  expect(wide(joined)).toBeLessThan(0.75 * wide(apart));
});

test.each(['plain', 'heavy', 'even'] as const)('the font %s is shipped', async (font) => {
  const found = await wordsOf('Title', 'outline', { words: 'Quay', font });
  expect(found.words!.count).toBe(4);
  expect(found.words!.lacks).toEqual([]);
  expect(height(boundsOf(pointsOf(found)))).toBeGreaterThan(0.5);
});

test('what a font has no letters for is left out and told', async () => {
  const found = await wordsOf('Title', 'outline', { words: 'Ω🚀A' });
  expect(found.words!.count).toBe(1);
  expect(found.words!.lacks).toEqual(['Ω', '🚀']);
});

test('ten thousand letters are laid out, as lines and as an area', async () => {
  const words = Array.from({ length: 100 }, () => 'plankton '.repeat(11) + 'x')
    .join('\n')
    .slice(0, 10_000);
  const lines = await outline({ words });
  const letters = words.replace(/\s/g, '').length;
  expect(lines.words!.count).toBe(letters);
  const { letters: of } = sample(lines, 20_000);
  expect(of!.at(-1)).toBe(letters - 1);
  const area = await wordsOf('Title', 'mesh', { words, font: 'plain' });
  expect((area as Mesh).words!.letterOf.at(-1)).toBe(letters - 1);
});

test('places of a morph have their letters, even ones in all of them', async () => {
  const [from, to] = [await mesh({ words: 'HH' }), await outline({ words: 'OO' })];
  const { letters, shapes } = matched([from, to], 4000);
  for (const [k, data] of [from, to].entries()) {
    const middle =
      boundsOf(pointsOf(data))
        .map((v) => v[0]!)
        .reduce((a, b) => a + b) / 2;
    letters[k]!.forEach((letter, i) => expect(shapes[k]![0]![i]! < middle).toBe(letter === 0));
    expect(letters[k]!.reduce((n, l) => n + l, 0) / 4000).toBeCloseTo(0.5, 1);
  }
});

const entry = (source: WordsSource): StockEntry => ({
  id: 'title',
  name: 'Title',
  type: 'mesh',
  source: source,
});

test('words come back from a file as they were, and are kept by all that they say', async () => {
  const own = entry({ words: 'Tide\nTables', font: 'heavy', size: 0.5, tracking: 0.1, depth: 0.2 });
  const piece = parsePiece(pieceText({ ...smallPiece(), stock: [own] }));
  expect(piece.stock).toEqual([own]);
  const files = await withWords(piece.stock, new Map());
  expect((files.get(wordsKey(piece.stock[0]!)) as Mesh).words!.count).toBe(10);
  expect(files.get(wordsKey(entry({ words: 'Tide' })))).toBeUndefined();
});

test.each(['', '  \n ', '🚀'])(
  "words '%s' that draw nothing are no thing of the stock",
  async (words) => {
    expect((await withWords([entry({ words })], new Map())).size).toBe(0);
  },
);

test('words whose font is not at hand wait for it', async () => {
  const own = entry({ words: 'Quay', font: { file: 'DejaVuSans.ttf', hash: 'ab'.repeat(32) } });
  expect((await withWords([own], new Map())).size).toBe(0);
  const font = await readStock('DejaVuSans.ttf', sans);
  const files = await withWords([own], new Map([['ab'.repeat(32), font]]));
  expect(files.has(wordsKey(own))).toBe(true);
});

test.each([
  [{ words: 'x'.repeat(10_001) }, /10,000 letters at most/],
  [{ words: 'x', size: 0 }, /size/],
  [{ words: 'x', font: 'fancy' }, /font/],
  [{ words: 'x', font: { file: '../x.ttf', hash: '' } }, /plain file name/],
] as const)('a piece with words %# is refused', (source, message) => {
  const text = pieceText({ ...smallPiece(), stock: [entry(source as never)] });
  expect(() => parsePiece(text)).toThrow(message);
});

test('words are an outline or a mesh', () => {
  const own = { ...entry({ words: 'x' }), type: 'picture' as const };
  const text = pieceText({ ...smallPiece(), stock: [own] });
  expect(() => parsePiece(text)).toThrow(/outline or mesh, not picture/);
});

describe('fonts that cannot be taken', () => {
  test.each([0.1, 0.5, 0.9, 0.999])('cut off at %d of the file', async (part) => {
    const cut = sans.slice(0, Math.floor(part * sans.length));
    await expect(readStock('cut.ttf', cut)).rejects.toThrow(/^cut\.ttf: .*(cut off|damaged)/);
  });

  test('pictures alone', async () => {
    const bytes = new Uint8Array(await readFile(EMOJI));
    await expect(readStock('emoji.ttf', bytes)).rejects.toThrow(/only pictures of letters/);
  });

  test.each(['rubbish', '\0'.repeat(4000), '{"a": 1}'])('no font at all: %#', async (text) => {
    await expect(readStock('x.otf', new TextEncoder().encode(text))).rejects.toThrow(/^x\.otf: /);
  });

  test('bytes changed anywhere give words or a clear refusal', async () => {
    for (let seed = 1; seed <= 60; seed++) {
      const bytes = sans.slice();
      for (let k = 0; k < 40; k++) {
        bytes[Math.floor(((seed * 7919 + k * 104_729) % 65_536) * (bytes.length / 65_536))]! ^=
          seed;
      }
      try {
        await readStock('x.ttf', bytes);
        const found = await wordsOf('Title', 'outline', { words: 'Quay', font: FILE }, bytes);
        expect(found.type).toBe('outline');
      } catch (error) {
        expect(String(error)).toMatch(/^StockError: (x\.ttf|DejaVuSans\.ttf|Title): /);
      }
    }
  });
});
