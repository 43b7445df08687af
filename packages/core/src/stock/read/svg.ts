import { XMLParser } from 'fast-xml-parser';
import svgpath from 'svgpath';
import { outlineOfPath, PathError } from '../outlinePath';
import type { Curve, Outline } from '../types';
import { StockError } from './error';

type Node = Record<string, unknown> & { ':@'?: Record<string, string> };

/** What a shape of SVG is as path data; null for what draws no line. */
function pathData(tag: string, get: (key: string) => string | undefined): string | null {
  const number = (key: string): number => Number.parseFloat(get(key) ?? '0') || 0;
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
  let found = 0;
  const visit = (nodes: Node[], transform: string): void => {
    for (const node of nodes) {
      const attributes = node[':@'] ?? {};
      const tag = Object.keys(node).find((k) => k !== ':@');
      if (!tag || ['defs', 'clipPath', 'mask', 'symbol', 'pattern', 'marker'].includes(tag))
        continue;
      const inner = `${transform} ${attributes.transform ?? ''}`.trim();
      const data = pathData(tag, (key) => attributes[key]);
      if (data !== null) {
        found += 1;
        curves.push(...curvesOf(name, found, data, inner));
      }
      const children = node[tag];
      if (Array.isArray(children)) visit(children as Node[], inner);
    }
  };
  visit(tree, '');
  if (curves.length === 0) throw new StockError(name, 'there is no path or other line in it');
  return { type: 'outline', curves };
}

function curvesOf(name: string, number: number, data: string, transform: string): Curve[] {
  try {
    const path = transform ? svgpath(data).transform(transform).toString() : data;
    return outlineOfPath(path).curves;
  } catch (error) {
    if (!(error instanceof PathError)) throw error;
    // A dot draws nothing; a path that cannot be read is told.
    if (error.message.includes('holds no line')) return [];
    throw new StockError(name, `line number ${number}: ${error.message.replace(/\.$/, '')}`);
  }
}
