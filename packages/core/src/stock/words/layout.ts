import bidiFactory from 'bidi-js';
import type { Font, Glyph } from 'fontkit';
import { attempt } from './font';
import { WORDS_DEFAULTS, type WordsSource } from './source';

/** A letter where it stands. */
export interface Letter {
  glyph: Glyph;
  /** Where its own origin stands, in units of the font; the block's middle is at 0. */
  x: number;
  y: number;
  /** Counted in the order of reading; what stands over another letter has that one's number. */
  number: number;
}

export interface Laid {
  letters: Letter[];
  /** Letters that draw something. */
  count: number;
  /** Letters that the font lacks. */
  lacks: string[];
}

interface Line {
  letters: Letter[];
  width: number;
}

const bidi = bidiFactory();

/** Lays words out as lines; what the font lacks is left out, and told. */
export function laidOut(name: string, font: Font, source: WordsSource): Laid {
  const { words, align, tracking, leading } = { ...WORDS_DEFAULTS, ...given(source) };
  const numbering = new Numbering();
  const em = font.unitsPerEm;
  const lines = words
    .split(/\r\n|[\n\r\u2028\u2029]/)
    .map((text) => attempt(name, () => lineOf(font, text, tracking * em, numbering)));
  const widest = Math.max(0, ...lines.map((l) => l.width));
  const high = attempt(name, () => capHeight(font));
  const first = ((lines.length - 1) * leading * em - high) / 2;
  const letters = lines.flatMap(({ letters: own, width }, i) => {
    const left = { left: -widest / 2, middle: -width / 2, right: widest / 2 - width }[align];
    return own.map((l) => ({ ...l, x: l.x + left, y: l.y + first - i * leading * em }));
  });
  return { letters, count: numbering.count, lacks: lackedBy(font, words) };
}

/** How high capitals are; older fonts do not say it. */
function capHeight(font: Font): number {
  if (font.capHeight > 0) return font.capHeight;
  const high = font.glyphForCodePoint(72).bbox.maxY;
  return high > 0 && Number.isFinite(high) ? high : font.ascent;
}

/** Letters of a text that a font does not have, each once. */
function lackedBy(font: Font, text: string): string[] {
  const lacks = [...new Set(text)].filter((c) => !font.hasGlyphForCodePoint(c.codePointAt(0)!));
  return lacks.filter((c) => !/[\s\p{Cc}\p{Default_Ignorable_Code_Point}]/u.test(c));
}

/** Settings that are not undefined. */
function given(source: WordsSource): Partial<Required<WordsSource>> & { words: string } {
  return Object.fromEntries(Object.entries(source).filter(([, v]) => v !== undefined)) as never;
}

/** A line from its left; runs of one direction each are shaped by themselves (Unicode Standard Annex 9). */
function lineOf(font: Font, text: string, tracking: number, numbering: Numbering): Line {
  const shaped = runsOf(text).map(({ text: part, level }) => {
    const backwards = level % 2 === 1;
    const run = font.layout(part, undefined, undefined, undefined, backwards ? 'rtl' : 'ltr');
    let x = 0;
    const all = run.glyphs.map((glyph, i) => {
      const { xAdvance, xOffset, yOffset } = run.positions[i]!;
      const letter = { glyph, x: x + xOffset, y: yOffset, number: -1 };
      x += xAdvance + (glyph.isMark ? 0 : tracking);
      return letter;
    });
    for (const letter of backwards ? all.toReversed() : all) numbering.take(letter);
    return { letters: all.filter((l) => l.number >= 0), width: x, level };
  });
  const line: Line = { letters: [], width: 0 };
  for (const { letters, width } of inSight(shaped)) {
    line.letters.push(...letters.map((l) => ({ ...l, x: l.x + line.width })));
    line.width += width;
  }
  // Behind the last letter there is nothing to keep room for.
  if (line.letters.length > 0) line.width -= tracking;
  return line;
}

/** Gives letters their numbers, in the order of reading. */
class Numbering {
  count = 0;

  /** Takes a letter; one that the font lacks, or that draws nothing, has no number. */
  take(letter: Letter): void {
    const { glyph } = letter;
    if (glyph.id === 0 || glyph.path.commands.length === 0) return;
    const joins = glyph.isMark && this.count > 0;
    letter.number = joins ? this.count - 1 : this.count++;
  }
}

interface Run {
  text: string;
  level: number;
}

/** Stretches of a line that run one way, in the order in which they are read. */
function runsOf(text: string): Run[] {
  if (text === '') return [];
  const found = bidi.getEmbeddingLevels(text);
  const mirrored = bidi.getMirroredCharactersMap(text, found.levels);
  const runs: Run[] = [];
  for (let i = 0; i < text.length; i++) {
    const [level, own] = [found.levels[i]!, mirrored.get(i) ?? text[i]!];
    const run = runs.at(-1);
    if (run?.level === level) run.text += own;
    else runs.push({ text: own, level });
  }
  return runs;
}

/** Runs from left to right (Annex 9, rule L2). */
function inSight<R extends { level: number }>(runs: readonly R[]): R[] {
  const order = [...runs];
  const highest = Math.max(0, ...runs.map((r) => r.level));
  for (let level = highest; level >= 1; level--) {
    for (let i = 0; i < order.length; i++) {
      let end = i;
      while (end < order.length && order[end]!.level >= level) end++;
      if (end > i) order.splice(i, end - i, ...order.slice(i, end).reverse());
      i = end;
    }
  }
  return order;
}
