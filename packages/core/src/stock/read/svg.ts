import { XMLParser } from 'fast-xml-parser';
import svgpath from 'svgpath';
import { outlineOfPath, PathError } from '../outlinePath';
import type { Curve, Outline } from '../types';
import { StockError } from './error';

type Node = Record<string, unknown> & { ':@'?: Record<string, string> };

/** Units of a file for one of a length's (W3C CSS Values 4, 6.2: 96 to the inch). */
const UNITS: Readonly<Record<string, number>> = {
  '': 1,
  px: 1,
  in: 96,
  cm: 96 / 2.54,
  mm: 96 / 25.4,
  q: 96 / 101.6,
  pt: 4 / 3,
  pc: 16,
};

/** A length in units of the file; none is 0. */
function lengthOf(key: string, text: string | undefined): number {
  if (text === undefined) return 0;
  const [, value, unit = ''] = /^\s*([+-]?[\d.]+(?:e[+-]?\d+)?)\s*([a-z%]*)\s*$/i.exec(text) ?? [];
  const scale = Object.hasOwn(UNITS, unit.toLowerCase()) ? UNITS[unit.toLowerCase()] : undefined;
  if (value === undefined || !Number.isFinite(Number(value)) || scale === undefined) {
    throw new PathError(`${key} is '${text.slice(0, 40)}', which is no length that is known here.`);
  }
  return Number(value) * scale;
}

/** Path data of a shape of SVG; null for one that draws no line. */
function pathData(tag: string, get: (key: string) => string | undefined): string | null {
  const number = (key: string): number => lengthOf(key, get(key));
  const points = (): string =>
    (get('points') ?? '')
      .trim()
      .split(/[\s,]+/)
      .join(' ');
  switch (tag) {
    case 'path':
      return get('d') ?? null;
    case 'line':
      return `M${number('x1')} ${number('y1')}L${number('x2')} ${number('y2')}`;
    case 'polyline':
      return points() ? `M${points()}` : null;
    case 'polygon':
      return points() ? `M${points()}Z` : null;
    case 'rect':
      return `M${number('x')} ${number('y')}h${number('width')}v${number('height')}h${-number('width')}Z`;
    case 'circle':
    case 'ellipse': {
      const rx = tag === 'circle' ? number('r') : number('rx');
      const ry = tag === 'circle' ? number('r') : number('ry');
      if (rx === 0 || ry === 0) return null;
      const [x, y] = [number('cx'), number('cy')];
      return `M${x - rx} ${y}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0Z`;
    }
    default:
      return null;
  }
}

/** The lines of an SVG file, with the transforms of their groups. Fills and styles do not count. */
export function outlineOfSvg(name: string, text: string): Outline {
  const options = { ignoreAttributes: false, attributeNamePrefix: '', preserveOrder: true };
  let tree: Node[];
  try {
    tree = new XMLParser(options).parse(text) as Node[];
  } catch (error) {
    throw new StockError(name, `it is not well-formed XML (${(error as Error).message})`);
  }
  const curves: Curve[] = [];
  const named = namedIn(tree);
  let found = 0;
  const visit = (nodes: Node[], transform: string, within: readonly string[]): void => {
    for (const node of nodes) {
      const attributes = node[':@'] ?? {};
      const tag = tagOf(node);
      if (!tag || HIDDEN.includes(tag)) continue;
      const inner = `${transform} ${attributes.transform ?? ''}`.trim();
      if (tag === 'use') {
        const id = (attributes.href ?? attributes['xlink:href'] ?? '').replace(/^#/, '');
        const shown = named.get(id);
        if (!shown) throw new StockError(name, `it uses '${id.slice(0, 60)}', which is not in it`);
        if (within.includes(id)) throw new StockError(name, `'${id}' uses itself`);
        visit(asSeen(shown), `${inner} ${moveOf(name, attributes)}`.trim(), [...within, id]);
        continue;
      }
      if (DRAWN.includes(tag)) found += 1;
      curves.push(...curvesOf(name, found, () => pathData(tag, (key) => attributes[key]), inner));
      if (curves.length > MOST_CURVES) throw new StockError(name, 'it has more than 100,000 lines');
      const children = node[tag];
      if (Array.isArray(children)) visit(children as Node[], inner, within);
    }
  };
  visit(tree, '', []);
  if (curves.length === 0) throw new StockError(name, 'there is no path or other line in it');
  return { type: 'outline', curves };
}

/** Most lines of a file: what is used many times by what is used many times has no end. */
const MOST_CURVES = 100_000;

/** Elements that draw lines. */
const DRAWN = ['path', 'line', 'polyline', 'polygon', 'rect', 'circle', 'ellipse'];

/** Elements that are not drawn where they stand. */
const HIDDEN = ['defs', 'clipPath', 'mask', 'symbol', 'pattern', 'marker'];

function tagOf(node: Node): string | undefined {
  return Object.keys(node).find((k) => k !== ':@');
}

/** All that has an id, however deep. */
function namedIn(nodes: Node[], found = new Map<string, Node>()): Map<string, Node> {
  for (const node of nodes) {
    const id = node[':@']?.id;
    if (id !== undefined && !found.has(id)) found.set(id, node);
    const children = node[tagOf(node) ?? ''];
    if (Array.isArray(children)) namedIn(children as Node[], found);
  }
  return found;
}

/** Where something is used, as a transform. */
function moveOf(name: string, { x, y }: Record<string, string>): string {
  try {
    return `translate(${lengthOf('x', x)} ${lengthOf('y', y)})`;
  } catch (error) {
    if (!(error instanceof PathError)) throw error;
    throw new StockError(name, `of what it uses, ${error.message.replace(/\.$/, '')}`);
  }
}

/** The elements that are drawn for one: those that it uses, and those of a symbol. */
function asSeen(node: Node): Node[] {
  return tagOf(node) === 'symbol' ? (node.symbol as Node[]) : [node];
}

/** @param read gives the path of a shape; null where it draws none */
function curvesOf(
  name: string,
  number: number,
  read: () => string | null,
  transform: string,
): Curve[] {
  try {
    const data = read();
    if (data === null) return [];
    const path = transform ? svgpath(data).transform(transform).toString() : data;
    return outlineOfPath(path).curves;
  } catch (error) {
    if (!(error instanceof PathError)) throw error;
    // A dot draws nothing; a path that cannot be read is told.
    if (error.message.includes('holds no line')) return [];
    throw new StockError(name, `line number ${number}: ${error.message.replace(/\.$/, '')}`);
  }
}
