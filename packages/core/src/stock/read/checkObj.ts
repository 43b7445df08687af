import { StockError } from './error';

/** How many numbers the kinds of lines have at the least (Wavefront, OBJ 3.0). */
const NUMBERS: Readonly<Record<string, number>> = { v: 3, vt: 1, vn: 3 };

/**
 * Refuses an OBJ whose numbers are none, or whose faces name what is not there: readers pass over both.
 * @throws StockError that names the line
 */
export function checkObj(name: string, text: string): void {
  const there: Record<string, number> = { v: 0, vt: 0, vn: 0 };
  let line = 0;
  for (const raw of text.split('\n')) {
    line += 1;
    const [word, ...parts] = raw.trim().split(/\s+/) as [string, ...string[]];
    const fail = (why: string): never => {
      throw new StockError(name, `line ${String(line)}: ${why}`);
    };
    const wanted = Object.hasOwn(NUMBERS, word) ? NUMBERS[word]! : null;
    if (wanted !== null) {
      const bad = parts.findIndex((p) => !Number.isFinite(Number(p)));
      if (bad >= 0)
        fail(`'${parts[bad]!.slice(0, 40)}' is no number; a point stands before decimals`);
      if (parts.length < wanted)
        fail(`'${word}' has ${String(parts.length)} of ${String(wanted)} numbers`);
      there[word]! += 1;
    } else if (word === 'f' || word === 'l' || word === 'p') {
      for (const corner of parts) checkCorner(corner, there, fail);
    }
  }
}

/** A corner as `vertex`, `vertex/place` or `vertex/place/normal`: from 1, or backwards from -1. */
function checkCorner(
  corner: string,
  there: Readonly<Record<string, number>>,
  fail: (why: string) => never,
): void {
  corner.split('/').forEach((text, k) => {
    if (text === '' && k > 0) return;
    const count = [there.v!, there.vt!, there.vn!][k] ?? 0;
    const index = Number(text);
    if (!Number.isInteger(index) || index === 0) fail(`'${corner.slice(0, 40)}' names no corner`);
    if (Math.abs(index) <= count) return;
    const what = ['vertex', 'place in a picture', 'normal'][k] ?? 'part';
    fail(`a face names ${what} ${text} of ${String(count)} before it`);
  });
}
