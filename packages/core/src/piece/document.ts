import {
  findNodeAtLocation,
  parseTree,
  printParseErrorCode,
  type Node,
  type ParseError,
} from 'jsonc-parser';
import type { z } from '../zod';
import { thereAre } from './thereAre';

/** Larger files are no documents of ours: those hold dials, not data. */
export const MAX_BYTES = 16 * 2 ** 20;
const MAX_DEPTH = 64;
const MAX_PROBLEMS = 20;

export interface Problem {
  /** The place in the document, as `swarms[0].dials.size`; empty for the file as a whole. */
  where: string;
  /** Line in the file, from 1; 0 where there is none. */
  line: number;
  message: string;
}

/** Says what is wrong with a document, as a piece, and where. */
export class PieceError extends Error {
  override readonly name = 'PieceError';

  constructor(readonly problems: readonly Problem[]) {
    super(problems.map(describe).join('\n'));
  }
}

export function describe(problem: Problem): string {
  const line = problem.line ? `line ${String(problem.line)}` : '';
  const place = [line, problem.where].filter(Boolean).join(', ');
  return place ? `${place}: ${problem.message}` : problem.message;
}

function fail(message: string, line = 0, where = ''): never {
  throw new PieceError([{ where, line, message }]);
}

/** Refuses what is too large to be one, before it is read. */
export function checkSize(bytes: number): void {
  if (bytes <= MAX_BYTES) return;
  const size = (bytes / 2 ** 20).toFixed(0);
  fail(`The file has ${size} MB; a piece file has at most 16 MB. Is it another kind of file?`);
}

/** A sort of document of ours, for its readers. */
interface Sort<T> {
  /** Its name in words. */
  what: string;
  /** Its `format`, and the newest version that is read. */
  format: string;
  version: number;
  schema: () => z.ZodType<T>;
  /** Brings one of an older version up to date, where there are some. */
  migrate?: (data: object) => unknown;
}

/** A document as its file's text. */
export function documentText(document: object): string {
  return `${JSON.stringify(document, null, 2)}\n`;
}

/**
 * Reads a document from its text.
 * @throws PieceError with every problem that was found (20 at the most); nothing is half read
 */
export function parseDocument<T>(sort: Sort<T>, given: string): T {
  // A byte-order mark is no part of the text.
  const text = given.replace(/^\ufeff/, '');
  checkSize(text.length);
  checkDepth(text);
  const errors: ParseError[] = [];
  const tree = parseTree(text, errors, { disallowComments: true, allowTrailingComma: false });
  const [first] = errors;
  if (first) {
    const words = printParseErrorCode(first.error)
      .replace(/([a-z])([A-Z])/g, '$1 $2')
      .toLowerCase();
    const near = text.slice(first.offset, first.offset + 12).split('\n')[0]!;
    fail(`This is not JSON: ${words} at '${near}'.`, lineAt(text, first.offset));
  }
  const data: unknown = JSON.parse(text);
  return validateDocument(sort, data, text, tree);
}

/** Checks data that is no text any more, as from the browser's storage. */
export function validateDocument<T>(
  { what, format, version, schema, migrate = (given) => given }: Sort<T>,
  data: unknown,
  text = '',
  tree?: Node,
): T {
  if (typeof data !== 'object' || data === null || !('format' in data) || data.format !== format) {
    fail(`This is not a ${what}: its 'format' should be '${format}'.`, 1, 'format');
  }
  const given = 'version' in data ? data.version : undefined;
  if (typeof given === 'number' && given > version) {
    const line = tree ? lineOf(text, tree, ['version']) : 0;
    fail(
      `The ${what} is of version ${String(given)}, this program reads up to ${String(version)}. Open it with a newer Vast Swarm.`,
      line,
      'version',
    );
  }
  const result = schema().safeParse(migrate(data));
  if (result.success) return result.data;
  const problems = result.error.issues.flatMap((issue) => flatten(issue)).slice(0, MAX_PROBLEMS);
  throw new PieceError(
    problems.map(({ path, message }) => ({
      where: pathText(path),
      line: tree ? lineOf(text, tree, path) : 0,
      message,
    })),
  );
}

interface Flat {
  path: (string | number)[];
  message: string;
}

/** A union's issue says little; the branch that came nearest says what to mend. */
function flatten(issue: z.core.$ZodIssue, before: PropertyKey[] = []): Flat[] {
  const path = [...before, ...issue.path].map((p) => (typeof p === 'symbol' ? '?' : p));
  if (issue.code === 'invalid_union' && issue.errors.length > 0) {
    const best = nearest(issue.errors);
    const feeds = best ? feedsWanted(issue.errors, best) : [];
    if (feeds.length > 0) {
      return [{ path: [...path, 'feed'], message: `cannot be this here; ${thereAre(feeds)}` }];
    }
    if (best) return best.flatMap((inner) => flatten(inner, path));
  }
  if (issue.code === 'unrecognized_keys') {
    const message = 'there is no such field in this version; remove or correct it';
    return issue.keys.map((key) => ({ path: [...path, key], message }));
  }
  return [{ path, message: wording(issue) }];
}

/** Fields that say which of several forms something has. */
const NAMING = ['feed', 'by', 'kind', 'shape', 'type'];

/** The fault by the form that was meant, of several that are allowed; undefined where none is near. */
function nearest(forms: readonly z.core.$ZodIssue[][]): z.core.$ZodIssue[] | undefined {
  const depth = (list: z.core.$ZodIssue[]): number => Math.max(...list.map((i) => i.path.length));
  // A form is another one where the field that names it differs, then where it has other fields.
  const named = (list: z.core.$ZodIssue[]): number => {
    const others = list.filter(({ path: [field] }) => NAMING.includes(String(field)));
    return others.length > 0 ? NAMING.length - NAMING.indexOf(String(others[0]!.path[0])) : 0;
  };
  const fields = (list: z.core.$ZodIssue[]): number =>
    list.reduce((sum, issue) => {
      if (issue.code === 'unrecognized_keys') return sum + issue.keys.length;
      return sum + (isMissing(issue) && issue.path.length === 1 ? 1 : 0);
    }, 0);
  const other = (list: z.core.$ZodIssue[]): boolean =>
    list.some((i) => i.code === 'invalid_type' && i.path.length === 0);
  const [best] = forms
    .filter((list) => !other(list))
    .sort((a, b) => named(a) - named(b) || fields(a) - fields(b) || depth(b) - depth(a));
  return best;
}

/** The feeds that are possible, where the one that was named is none of them. */
function feedsWanted(
  forms: readonly z.core.$ZodIssue[][],
  best: readonly z.core.$ZodIssue[],
): string[] {
  const feed = (i: z.core.$ZodIssue): boolean => i.path.length === 1 && i.path[0] === 'feed';
  if (!best.some(feed)) return [];
  return forms.flatMap((list) =>
    list.flatMap((i) => (i.code === 'invalid_value' && feed(i) ? i.values.map(String) : [])),
  );
}

function isMissing(issue: z.core.$ZodIssue): issue is z.core.$ZodIssueInvalidType {
  return issue.code === 'invalid_type' && issue.message.endsWith('received undefined');
}

function wording(issue: z.core.$ZodIssue): string {
  if (issue.code === 'invalid_union' && issue.path.at(-1) === 'kind') {
    return 'there is no such kind in this version; see the list of kinds in docs/file-format.md';
  }
  if (issue.code === 'invalid_union' && issue.message === 'Invalid input') {
    return 'has none of the forms this dial can take';
  }
  if (isMissing(issue)) {
    return `is missing (${issue.expected} wanted)`;
  }
  return issue.message.replace(/^Invalid input: /, '');
}

function pathText(path: readonly (string | number)[]): string {
  return path.reduce<string>(
    (text, p) => (typeof p === 'number' ? `${text}[${String(p)}]` : text ? `${text}.${p}` : p),
    '',
  );
}

/** The line of a place, or of the nearest thing around it that is there. */
function lineOf(text: string, tree: Node, path: readonly (string | number)[]): number {
  for (let n = path.length; n >= 0; n--) {
    const node = findNodeAtLocation(tree, path.slice(0, n));
    if (node) return lineAt(text, node.offset);
  }
  return 1;
}

function lineAt(text: string, offset: number): number {
  return text.slice(0, offset).split('\n').length;
}

/** Deep nesting would exhaust the readers behind; no piece needs it. */
function checkDepth(text: string): void {
  let depth = 0;
  let inString = false;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (inString) {
      if (c === 92) i++;
      else if (c === 34) inString = false;
    } else if (c === 34) inString = true;
    else if (c === 91 || c === 123) {
      if (++depth > MAX_DEPTH) {
        fail(`Nested more than ${String(MAX_DEPTH)} deep; no piece is.`, lineAt(text, i));
      }
    } else if (c === 93 || c === 125) depth--;
  }
}
