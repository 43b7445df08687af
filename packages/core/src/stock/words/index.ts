import type { Font, Glyph } from 'fontkit';
import { reportProgress } from '../../progress';
import { coarserOf, simplifierReady } from '../places/coarser';
import { checkTriangles } from '../read/checkTriangles';
import type { Curve, Mesh, Outline } from '../types';
import { contoursOf, type Contour } from './contours';
import { openFont } from './font';
import { laidOut, type Laid } from './layout';
import { WORDS_DEFAULTS, type ShippedFont, type WordsSource } from './source';
import { surfaceOf, type Surface } from './solid';

export * from './source';

/** Letters are worked out between two words of how far it is. */
const EVERY = 64;

const shipped = new Map<ShippedFont, Promise<Font>>();

/** One of the fonts that are shipped; opened once. */
async function shippedFont(font: ShippedFont): Promise<Font> {
  let open = shipped.get(font);
  if (!open) {
    open = import('../../generated/fonts').then(({ FONT_FILES }) => {
      const bytes = Uint8Array.from(atob(FONT_FILES[font]), (c) => c.charCodeAt(0));
      return openFont(font, bytes);
    });
    shipped.set(font, open);
  }
  return open;
}

/**
 * Words as a thing of the stock, in metres.
 *
 * @param name what they are called, for what is wrong with them
 * @param type lines, or areas and solids
 * @param fontFile the bytes of the font's file, where it is not shipped
 * @throws StockError where the font cannot be read, or there would be too many triangles
 */
export async function wordsOf(
  name: string,
  type: 'outline' | 'mesh',
  source: WordsSource,
  fontFile?: Uint8Array,
): Promise<Outline | Mesh> {
  const { font: named = WORDS_DEFAULTS.font, size = WORDS_DEFAULTS.size } = source;
  const font =
    typeof named === 'string' ? await shippedFont(named) : await openFont(named.file, fontFile!);
  const laid = laidOut(name, font, source);
  const scale = size / font.unitsPerEm;
  return type === 'outline'
    ? outlineOf(laid, font, scale)
    : meshOf(name, laid, font, { scale, depth: source.depth ?? WORDS_DEFAULTS.depth });
}

/** Each kind of letter is worked out once. */
function byGlyph<T>(find: (glyph: Glyph) => T): (glyph: Glyph) => T {
  const known = new Map<number, T>();
  return (glyph) => {
    let found = known.get(glyph.id);
    if (!found) known.set(glyph.id, (found = find(glyph)));
    return found;
  };
}

function outlineOf({ letters, count, lacks }: Laid, font: Font, scale: number): Outline {
  const contours = byGlyph((glyph) => contoursOf(glyph, font.unitsPerEm));
  const curves: Curve[] = [];
  const letterOf: number[] = [];
  for (const { glyph, x, y, number } of inOrder(letters)) {
    for (const contour of contours(glyph)) {
      curves.push({ points: closedLine(contour, x, y, scale), closed: true });
      letterOf.push(number);
    }
  }
  const words = { count, lacks, letterOf: Uint32Array.from(letterOf) };
  return { type: 'outline', curves, words };
}

/** As they are read, from the first. */
function inOrder(letters: Laid['letters']): Laid['letters'] {
  return letters.toSorted((a, b) => a.number - b.number);
}

function closedLine(contour: Contour, x: number, y: number, scale: number): Float32Array {
  const n = contour.length / 2;
  const points = new Float32Array(3 * (n + 1));
  for (let i = 0; i <= n; i++) {
    points[3 * i] = (contour[2 * (i % n)]! + x) * scale;
    points[3 * i + 1] = (contour[2 * (i % n) + 1]! + y) * scale;
  }
  return points;
}

async function meshOf(
  name: string,
  { letters, count, lacks }: Laid,
  font: Font,
  { scale, depth }: { scale: number; depth: number },
): Promise<Mesh> {
  const { filled } = await import('./fill');
  const surfaces = byGlyph((glyph) =>
    surfaceOf(filled(contoursOf(glyph, font.unitsPerEm)), depth / scale),
  );
  const ordered = inOrder(letters).map((l) => ({ ...l, surface: surfaces(l.glyph) }));
  const sum = (of: (s: Surface) => number): number =>
    ordered.reduce((n, { surface }) => n + of(surface), 0);
  const triangles = new Uint32Array(sum((s) => s.triangles.length));
  checkTriangles(name, triangles.length / 3);
  const positions = new Float32Array(sum((s) => s.positions.length));
  const letterOf = new Uint32Array(triangles.length / 3);
  let [vertex, corner] = [0, 0];
  for (const [i, { surface, x, y, number }] of ordered.entries()) {
    if (i % EVERY === 0) reportProgress('letters', i / ordered.length);
    const off = [x, y, 0];
    surface.positions.forEach((v, k) => (positions[3 * vertex + k] = (v + off[k % 3]!) * scale));
    surface.triangles.forEach((v, k) => (triangles[corner + k] = v + vertex));
    letterOf.fill(number, corner / 3, (corner + surface.triangles.length) / 3);
    vertex += surface.positions.length / 3;
    corner += surface.triangles.length;
  }
  const mesh: Mesh = {
    type: 'mesh',
    positions,
    triangles,
    words: { count, lacks, letterOf },
  };
  await simplifierReady;
  return { ...mesh, coarser: coarserOf(mesh) };
}
