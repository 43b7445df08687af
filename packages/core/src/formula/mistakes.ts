import { FormulaError } from './formulaError';

/** Signs of other languages, with those that stand for them here. */
const SIGNS: Readonly<Record<string, string>> = {
  '&': "'and' is written &&",
  '|': "'or' is written ||",
  '=': "'equal' is written ==",
  '**': 'a power is written ^',
  '×': "'times' is written *",
  '·': "'times' is written *",
  '÷': "'divided by' is written /",
  '−': "'minus' is written -",
  ';': 'one formula stands alone',
};

const NAMING: ReadonlySet<string> = new Set(['signal', 'map']);

const TOKEN =
  /\s*(?:(?<number>(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?)|(?<name>[A-Za-z_$][\w$]*|'[^']*'|"[^"]*")|(?<sign>\*\*|&&|\|\||[<>=!]=|.))/gsu;

interface Token {
  kind: 'number' | 'name' | 'sign';
  text: string;
  at: number;
}

function tokensOf(text: string): Token[] {
  const tokens: Token[] = [];
  for (const { 0: all, index, groups } of text.matchAll(TOKEN)) {
    for (const kind of ['number', 'name', 'sign'] as const) {
      const word = groups?.[kind]?.trim();
      if (word) tokens.push({ kind, text: word, at: index + all.length - word.length });
    }
  }
  return tokens;
}

/** Whether a token can end what a sign stands behind. */
const ends = (t: Token | undefined): boolean => !!t && (t.kind !== 'sign' || t.text === ')');
/** Whether a token can begin what a sign stands before. */
const begins = (t: Token): boolean => t.kind !== 'sign' || t.text === '(';

/**
 * Finds what is no formula, and what could be meant in two ways, before it is read.
 *
 * @param functions names that stand before brackets
 * @throws FormulaError at the character, in plain words
 */
export function refuseMistakes(text: string, functions: ReadonlySet<string>): void {
  const tokens = tokensOf(text);
  /** For each open bracket, whether a function stands before it. */
  const open: boolean[] = [];
  tokens.forEach((token, i) => {
    const [before, { text: word, at }] = [tokens[i - 1], token];
    const calls = before?.kind === 'name' && word === '(';
    const said = SIGNS[word];
    if (token.kind === 'sign' && said)
      throw new FormulaError(at, `'${word}' is not known: ${said}`);
    if (word === '!' && ends(before)) {
      throw new FormulaError(at, "'!' stands before what it turns round");
    }
    // In the brackets of these stands an id, whatever it is called.
    const isId = i > 2 && tokens[i - 2]!.text === '(' && NAMING.has(tokens[i - 3]!.text);
    if (before?.kind === 'name' && functions.has(before.text) && word !== '(' && !isId) {
      throw new FormulaError(before.at, `'${before.text}' wants brackets: ${before.text}(…)`);
    }
    if (ends(before) && begins(token) && !calls) {
      throw new FormulaError(at, `there is no sign between '${before!.text}' and '${word}'`);
    }
    if (word === '(') open.push(calls);
    if (word === ')') open.pop();
    if (word === ',' && !open.at(-1)) {
      throw new FormulaError(
        at,
        'a comma stands between the values of a function; a decimal point is written .',
      );
    }
    if (word === '^' && isNegated(tokens, i)) {
      throw new FormulaError(at, 'a minus before a power can mean two things: set brackets');
    }
  });
}

/** Whether a minus stands before what the power at `i` is of, and is not taken from something. */
function isNegated(tokens: readonly Token[], i: number): boolean {
  let at = i - 1;
  if (tokens[at]?.text === ')') {
    for (let depth = 0; at >= 0; at--) {
      if (tokens[at]!.text === ')') depth += 1;
      if (tokens[at]!.text === '(' && --depth === 0) break;
    }
    if (tokens[at - 1]?.kind === 'name') at -= 1;
  }
  return tokens[at - 1]?.text === '-' && !ends(tokens[at - 2]);
}
