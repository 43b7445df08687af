import { colord, extend } from 'colord';
import names from 'colord/plugins/names';
import { XMLParser } from 'fast-xml-parser';
import { hexOf, type Rgb } from '../feeds/colour';
import { gradientAt, type Stop } from '../feeds/gradient';

extend([names]);

/** What is wrong with a gradient's file, and where. */
export class GradientError extends Error {
  override readonly name = 'GradientError';
}

/** Most stops of a gradient. */
const MOST = 32;

const round = (v: number): number => Math.round(v * 10000) / 10000;

/** What a screen shows of a stop: light over 1 as its own colour at full strength. */
function shownColour({ colour, light = 1 }: Stop): string {
  if (light >= 1) return colour;
  return hexOf(
    gradientAt(
      [
        { at: 0, colour, light },
        { at: 1, colour, light },
      ],
      0,
    ),
  );
}

/**
 * A linear gradient as SVG (W3C, SVG 2). SVG knows no light over 1: it stands in `data-light`, which
 * other programs pass over.
 */
export function gradientToSvg(name: string, stops: readonly Stop[]): string {
  const lines = stops.map((s) => {
    const light = s.light !== undefined && s.light > 1 ? ` data-light="${String(s.light)}"` : '';
    return `      <stop offset="${String(round(s.at))}" stop-color="${shownColour(s)}"${light}/>`;
  });
  const id = name.replace(/[^A-Za-z0-9]+/g, '-').replace(/^-+|-+$/g, '') || 'gradient';
  return `<svg xmlns="http://www.w3.org/2000/svg" width="512" height="64">
  <defs>
    <linearGradient id="${id}">
${lines.join('\n')}
    </linearGradient>
  </defs>
  <rect width="512" height="64" fill="url(#${id})"/>
</svg>
`;
}

type Xml = Record<string, unknown>;

function find(node: unknown, name: string, found: Xml[] = []): Xml[] {
  if (Array.isArray(node)) node.forEach((n) => find(n, name, found));
  else if (typeof node === 'object' && node !== null) {
    for (const [key, value] of Object.entries(node)) {
      if (key === name) found.push(...((Array.isArray(value) ? value : [value]) as Xml[]));
      else find(value, name, found);
    }
  }
  return found;
}

/** Any colour of CSS as '#rrggbb', what shows through it left out; null where it is something else. */
function colourOf(text: string): string | null {
  const colour = colord(text.trim().toLowerCase());
  return colour.isValid() ? colour.alpha(1).toHex() : null;
}

/** @throws GradientError */
export function gradientOfSvg(text: string): Stop[] {
  const parser = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '' });
  let tree: unknown;
  try {
    tree = parser.parse(text);
  } catch (error) {
    throw new GradientError(`This is not SVG: ${(error as Error).message}`);
  }
  const gradient = [...find(tree, 'linearGradient'), ...find(tree, 'radialGradient')].find(
    (g) => find(g, 'stop').length > 0,
  );
  if (!gradient) throw new GradientError('There is no gradient with stops in it.');
  const stops = find(gradient, 'stop').map((stop, i): Stop => {
    const style = typeof stop.style === 'string' ? stop.style : '';
    const said =
      (stop['stop-color'] as string | undefined) ?? /stop-color:([^;]+)/.exec(style)?.[1];
    const colour = colourOf(said ?? '#000000');
    const where = `Stop ${String(i + 1)}`;
    if (!colour) throw new GradientError(`${where}: the colour '${said ?? ''}' is not known.`);
    const offset = (stop.offset as string | undefined) ?? '0';
    const at = parseFloat(offset) / (offset.includes('%') ? 100 : 1);
    if (!Number.isFinite(at))
      throw new GradientError(`${where}: the offset '${offset}' is no number.`);
    const light = Number(stop['data-light']);
    return {
      at: Math.min(1, Math.max(0, at)),
      colour,
      ...(light > 1 && light <= 100 ? { light } : {}),
    };
  });
  return checked(stops);
}

/** A colour palette table, the text format of map makers: slices from value to value with their colours. */
export function gradientToCpt(name: string, stops: readonly Stop[]): string {
  const rgb = (hex: string): string =>
    [1, 3, 5].map((i) => String(parseInt(hex.slice(i, i + 2), 16))).join('/');
  const lines = stops.slice(1).map((to, i) => {
    const from = stops[i]!;
    return `${round(from.at).toFixed(4)}\t${rgb(shownColour(from))}\t${round(to.at).toFixed(4)}\t${rgb(shownColour(to))}`;
  });
  return `# ${name}\n# COLOR_MODEL = RGB\n${lines.join('\n')}\n`;
}

/** @throws GradientError that names the line */
export function gradientOfCpt(text: string): Stop[] {
  const ends: { value: number; rgb: Rgb }[] = [];
  text.split(/\r?\n/).forEach((raw, i) => {
    const line = raw.split(';')[0]!.trim();
    if (line === '' || /^[#BFN]/.test(line)) return;
    const numbers = line.split(/[\s/]+/).map(Number);
    if (numbers.length < 8 || !numbers.every(Number.isFinite)) {
      throw new GradientError(
        `Line ${String(i + 1)}: a value and three colours, twice, are wanted.`,
      );
    }
    const [v0, r0, g0, b0, v1, r1, g1, b1] = numbers as [
      ...[number, number, number, number],
      ...[number, number, number, number],
    ];
    for (const [value, ...rgb] of [
      [v0, r0, g0, b0],
      [v1, r1, g1, b1],
    ] as [number, number, number, number][]) {
      if (rgb.some((c) => c < 0 || c > 255)) {
        throw new GradientError(`Line ${String(i + 1)}: colours go from 0 to 255.`);
      }
      const last = ends.at(-1);
      const same = last?.value === value && last.rgb.join() === rgb.join();
      if (!same) ends.push({ value, rgb });
    }
  });
  if (ends.length < 2) throw new GradientError('There are no slices of colour in it.');
  const [low, high] = [ends[0]!.value, ends.at(-1)!.value];
  if (!(high > low)) throw new GradientError('Its values do not rise.');
  const hex = (rgb: Rgb): string =>
    `#${rgb.map((c) => Math.round(c).toString(16).padStart(2, '0')).join('')}`;
  return checked(
    ends.map(({ value, rgb }) => ({ at: round((value - low) / (high - low)), colour: hex(rgb) })),
  );
}

function checked(stops: Stop[]): Stop[] {
  const sorted = stops.map((s, i) => ({ s, i })).sort((a, b) => a.s.at - b.s.at || a.i - b.i);
  const inOrder = sorted.map(({ s }) => s);
  if (inOrder.length === 1) inOrder.push({ ...inOrder[0]!, at: 1 });
  if (inOrder.length <= MOST) return inOrder;
  // Too many to take in hand: as many as there may be, evenly chosen.
  return Array.from({ length: MOST }, (_, i) => {
    const at = Math.round((i * (inOrder.length - 1)) / (MOST - 1));
    return inOrder[at]!;
  });
}

/** Reads a gradient by what the file is called. @throws GradientError */
export function readGradient(name: string, text: string): Stop[] {
  return /\.cpt$/i.test(name) ? gradientOfCpt(text) : gradientOfSvg(text);
}
