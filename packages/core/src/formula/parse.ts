import jsep, {
  type BinaryExpression,
  type CallExpression,
  type ConditionalExpression,
  type Expression,
  type Identifier,
  type Literal,
  type UnaryExpression,
} from 'jsep';
import { FormulaError } from './formulaError';
import { refuseMistakes } from './mistakes';

export { FormulaError };

/** A formula as a tree; `at` is the place in the text, counted from 0. */
export type Formula =
  | { type: 'number'; value: number }
  | { type: 'name'; name: Name }
  /** Another signal, or a part of it as `id.1`. */
  | { type: 'signal'; id: string }
  /** The brightness of a picture: where the particle was born on its emitter, or at a place in it, 0 to 1. */
  | { type: 'map'; id: string; at: [Formula, Formula] | null }
  | { type: 'call'; name: FunctionName; args: Formula[] }
  | { type: 'unary'; operator: '-' | '!'; argument: Formula }
  | { type: 'binary'; operator: Operator; left: Formula; right: Formula }
  | { type: 'choice'; test: Formula; yes: Formula; no: Formula };

export const OPERATORS = [
  '+',
  '-',
  '*',
  '/',
  '%',
  '^',
  '<',
  '>',
  '<=',
  '>=',
  '==',
  '!=',
  '&&',
  '||',
] as const;
export type Operator = (typeof OPERATORS)[number];

/** Names of inputs: the first four anywhere, the others where there is a particle. */
export const NAMES = {
  time: 'seconds of the piece',
  frame: 'number of the frame',
  seed: "the piece's seed",
  pi: '3.14159…',
  index: 'number of the particle in order of birth',
  letter: 'number of the letter it was born on, from 0; 0 where it was born on no words',
  random: 'a number from 0 to 1 that the particle keeps',
  age: 'seconds since birth',
  life: 'seconds from birth to death',
  lived: 'part of the life that is over, 0 to 1',
  x: 'place in metres',
  y: 'place in metres',
  z: 'place in metres',
  speed: 'metres a second',
  heading: 'direction over the ground in degrees, 0 along +x',
  pitch: 'degrees above the ground',
} as const;
export type Name = keyof typeof NAMES;
const OF_FRAME: ReadonlySet<string> = new Set(['time', 'frame', 'seed', 'pi']);

/** How many values each function takes, or the least and the most. */
export const FUNCTIONS = {
  sin: 1,
  cos: 1,
  abs: 1,
  sign: 1,
  floor: 1,
  round: 1,
  fract: 1,
  sqrt: 1,
  exp: 1,
  log: 1,
  noise: [1, 3],
  pick: 1,
  min: 2,
  max: 2,
  atan2: 2,
  clamp: 3,
  mix: 3,
  smooth: 3,
} as const;
export type FunctionName = keyof typeof FUNCTIONS;

export const LONGEST = 400;
jsep.addBinaryOp('^', 12, true);
const CALLED: ReadonlySet<string> = new Set([...Object.keys(FUNCTIONS), 'signal', 'map']);

/**
 * Reads infix mathematics: + - * / % ^, comparisons (1 for true, 0 for false), && || !,
 * `test ? yes : no`, names and functions.
 * @param particle whether the particle's own readings can be named
 * @throws FormulaError
 */
export function parseFormula(text: string, particle: boolean): Formula {
  if (!text.trim()) throw new FormulaError(0, 'a formula is wanted, as 0.5 + 0.5 * sin(time)');
  if (text.length > LONGEST) {
    throw new FormulaError(LONGEST, `a formula has at most ${String(LONGEST)} characters`);
  }
  refuseMistakes(text, CALLED);
  return new Reader(text, particle).read(syntax(text));
}

function syntax(text: string): Expression {
  try {
    return jsep(text);
  } catch (error) {
    const { index, description } = error as { index?: number; description?: string };
    const what = (description ?? 'not understood').replace(/^./, (c) => c.toLowerCase());
    throw new FormulaError(Math.min(index ?? 0, text.length), what);
  }
}

const WORDS = /(?<![\w.])[A-Za-z_$][\w$]*/g;

class Reader {
  /** Where names stand, in the order in which the tree holds them. */
  private readonly places: number[];
  private next = 0;

  constructor(
    text: string,
    private readonly particle: boolean,
  ) {
    this.places = [...text.matchAll(WORDS)].map((m) => m.index);
  }

  read(node: Expression): Formula {
    switch (node.type) {
      case 'Literal': {
        const { value } = node as Literal;
        if (typeof value === 'number') return { type: 'number', value };
        // true, false and null are words to this parser, and no numbers.
        throw this.fail(typeof value === 'string' ? 'text has no place here' : 'not a number');
      }
      case 'Identifier':
        return this.name((node as Identifier).name);
      case 'UnaryExpression': {
        const { operator, argument } = node as UnaryExpression;
        if (operator === '+') return this.read(argument);
        if (operator !== '-' && operator !== '!') throw this.fail(`'${operator}' is not known`);
        return { type: 'unary', operator, argument: this.read(argument) };
      }
      case 'BinaryExpression': {
        const { operator, left, right } = node as BinaryExpression;
        if (!(OPERATORS as readonly string[]).includes(operator)) {
          throw this.fail(`'${operator}' is not known`);
        }
        return {
          type: 'binary',
          operator: operator as Operator,
          left: this.read(left),
          right: this.read(right),
        };
      }
      case 'ConditionalExpression': {
        const { test, consequent, alternate } = node as ConditionalExpression;
        return {
          type: 'choice',
          test: this.read(test),
          yes: this.read(consequent),
          no: this.read(alternate),
        };
      }
      case 'CallExpression':
        return this.call(node as CallExpression);
      default:
        throw this.fail('only numbers, names, functions and signs are known');
    }
  }

  private fail(problem: string, at = this.places[this.next] ?? 0): FormulaError {
    return new FormulaError(at, problem);
  }

  private name(name: string): Formula {
    const at = this.places[this.next++] ?? 0;
    if (Object.hasOwn(FUNCTIONS, name)) throw this.fail(`'${name}' wants brackets: ${name}(…)`, at);
    if (!Object.hasOwn(NAMES, name)) throw this.fail(`'${name}' is not known`, at);
    if (!this.particle && !OF_FRAME.has(name)) {
      throw this.fail(`'${name}' belongs to a particle; here there is none`, at);
    }
    return { type: 'name', name: name as Name };
  }

  private call({ callee, arguments: args }: CallExpression): Formula {
    const at = this.places[this.next++] ?? 0;
    const name = callee.type === 'Identifier' ? (callee as Identifier).name : '';
    if (name === 'signal') return this.signal(args, at);
    if (name === 'map') return this.map(args, at);
    if (!Object.hasOwn(FUNCTIONS, name)) throw this.fail(`there is no function '${name}'`, at);
    if (name === 'pick' && !this.particle) {
      throw this.fail("'pick' belongs to a particle; here there is none", at);
    }
    const [least, most] = valuesOf(FUNCTIONS[name as FunctionName]);
    if (args.length < least || args.length > most) {
      const count = least === most ? String(least) : `${String(least)} to ${String(most)}`;
      const values = `${count} value${most === 1 ? '' : 's'}`;
      throw this.fail(`${name} takes ${values}, not ${String(args.length)}`, at);
    }
    return { type: 'call', name: name as FunctionName, args: args.map((a) => this.read(a)) };
  }

  /** `map(tide)`, or at a place in it, 0 to 1 across and down: `map(tide, x, 0.5)`. */
  private map(args: readonly Expression[], at: number): Formula {
    if (!this.particle) throw this.fail("'map' belongs to a particle; here there is none", at);
    const id = this.named(args[0]);
    if (id === '' || (args.length !== 1 && args.length !== 3)) {
      throw this.fail('map takes the id of a picture, as map(tide), or map(tide, 0.5, 0.5)', at);
    }
    if (args.length === 1) return { type: 'map', id, at: null };
    return { type: 'map', id, at: [this.read(args[1]!), this.read(args[2]!)] };
  }

  /** An id that stands as it is, or in quotes; empty where there is none. */
  private named(arg: Expression | undefined): string {
    const name =
      arg?.type === 'Identifier' ? (arg as Identifier).name : (arg as Literal | undefined)?.value;
    this.next += [...String(name).matchAll(WORDS)].length;
    return typeof name === 'string' ? name : '';
  }

  /** `signal(bell)`, or in quotes what is no name: `signal('bands.2')`. */
  private signal(args: readonly Expression[], at: number): Formula {
    if (this.particle) {
      throw this.fail('a signal has no place in a formula of particles; feed it to the dial', at);
    }
    const id = this.named(args[0]);
    if (args.length !== 1 || id === '') {
      throw this.fail("signal takes the id of one, as signal(bell) or signal('bands.2')", at);
    }
    return { type: 'signal', id };
  }
}

/** A formula with something else, as 0, in place of a signal or what is read in a picture. */
export function withNamedAs(
  text: string,
  call: 'signal' | 'map',
  id: string,
  other: string,
): string {
  const name = id.replace(/[^\w]/g, '\\$&');
  const named = new RegExp(`\\b${call}\\s*\\(\\s*['"]?${name}(\\.\\d+)?['"]?\\s*(?=[,)])`);
  const found = named.exec(text);
  if (!found) return text;
  let end = found.index + found[0].length;
  for (let depth = 1; end < text.length; end++) {
    if (text[end] === '(') depth += 1;
    if (text[end] === ')' && --depth === 0) break;
  }
  const rest = withNamedAs(text.slice(end + 1), call, id, other);
  return text.slice(0, found.index) + other + rest;
}

/** A formula in which signals, or the pictures that it reads, have other ids. */
export function withNamesOf(
  text: string,
  call: 'signal' | 'map',
  rename: (id: string) => string,
): string {
  const named = new RegExp(`\\b${call}\\s*\\(\\s*(?:'([^']*)'|"([^"]*)"|(\\w+))`, 'g');
  return text.replace(named, (all, ...ids: (string | undefined)[]) => {
    const id = ids.slice(0, 3).find((given) => given !== undefined)!;
    const fresh = rename(id);
    return fresh === id ? all : `${call}('${fresh}'`;
  });
}

/** Ids of the signals that a formula names; none where it cannot be read. */
export function formulaSignals(text: string): string[] {
  return namedBy(text, 'signal');
}

/** Ids of the pictures that a formula reads; none where it cannot be read. */
export function formulaMaps(text: string): string[] {
  return namedBy(text, 'map');
}

function namedBy(text: string, type: 'signal' | 'map'): string[] {
  // Only what can be found in the text is looked for: most formulas name none.
  if (!text.includes(type)) return [];
  const found: string[] = [];
  const visit = (formula: Formula): void => {
    if (formula.type === type) found.push(formula.id);
    partsOf(formula).forEach(visit);
  };
  try {
    visit(parseFormula(text, type === 'map'));
  } catch (error) {
    if (!(error instanceof FormulaError)) throw error;
  }
  return found;
}

/** A formula and all formulas within it. */
function partsOf(formula: Formula): Formula[] {
  switch (formula.type) {
    case 'call':
      return formula.args;
    case 'map':
      return formula.at ?? [];
    case 'unary':
      return [formula.argument];
    case 'binary':
      return [formula.left, formula.right];
    case 'choice':
      return [formula.test, formula.yes, formula.no];
    default:
      return [];
  }
}

/** Whether the formula names anything of a particle, so that it differs from one to the next. */
export function isOfParticle(formula: Formula): boolean {
  if (formula.type === 'name') return !OF_FRAME.has(formula.name);
  if (formula.type === 'map' || (formula.type === 'call' && formula.name === 'pick')) return true;
  return partsOf(formula).some(isOfParticle);
}

const LASTING: ReadonlySet<string> = new Set(['index', 'letter', 'random', 'life', 'seed', 'pi']);

/** Whether it names what changes while the particle lives and cannot be told from its number. */
export function changesInLife(formula: Formula): boolean {
  if (formula.type === 'signal' || formula.type === 'map') return true;
  if (formula.type === 'name') return !LASTING.has(formula.name);
  return partsOf(formula).some(changesInLife);
}

function valuesOf(count: number | readonly [number, number]): readonly [number, number] {
  return typeof count === 'number' ? [count, count] : count;
}
