import { colord, extend } from 'colord';
import names from 'colord/plugins/names';
import { XMLParser } from 'fast-xml-parser';
import { hexOf, type Rgb } from '../feeds/colour';
import { gradientAt, type Stop } from '../feeds/gradient';
import { EASES } from '../feeds/shape';

extend([names]);

/** The error of a gradient's file: the fault, and its place. */
export class GradientError extends Error {
  override readonly name = 'GradientError';
}

/** Most stops of a gradient. */
const MOST = 32;

const round = (v: number): number => Math.round(v * 10000) / 10000;

/** Colour of a stop on a screen: light over 1 as its own colour at full strength. */
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

/** A stop as a screen shows it; those between are there for programs that mix otherwise. */
interface Shown {
  at: number;
  colour: string;
  /** The stop of the gradient; null between them. */
  own: Stop | null;
}

/** Steps of 255 that what others mix may be off, and how often a way is halved for it. */
const [NEAR, HALVINGS] = [1.5, 5];

const parts = (hex: string): number[] => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16));

/** Stops with as many between them that others, who mix what screens show, come to the same colours. */
function shownStops(stops: readonly Stop[]): Shown[] {
  const plain = stops.map((s) => ({ ...s, colour: shownColour(s), light: 1 }));
  const colourAt = (at: number): string => hexOf(gradientAt(plain, at));
  const way = (from: Shown, to: Shown, left: number): Shown[] => {
    const at = (from.at + to.at) / 2;
    const colour = colourAt(at);
    const [a, b, wanted] = [parts(from.colour), parts(to.colour), parts(colour)];
    const off = wanted.map((w, k) => Math.abs(w - (a[k]! + b[k]!) / 2));
    if (left === 0 || to.at - from.at < 1e-3 || Math.max(...off) <= NEAR) return [];
    const middle = { at, colour, own: null };
    return [...way(from, middle, left - 1), middle, ...way(middle, to, left - 1)];
  };
  const own = stops.map((s, i): Shown => ({ at: s.at, colour: plain[i]!.colour, own: s }));
  return own.flatMap((stop, i) => {
    const next = own[i + 1];
    if (!next) return [stop];
    // What is held jumps where the next one stands.
    if (stop.own!.ease === 'hold') return [stop, { at: next.at, colour: stop.colour, own: null }];
    return [stop, ...way(stop, next, HALVINGS)];
  });
}

/**
 * A linear gradient as SVG (W3C, SVG 2). SVG knows no light over 1, and no way between colours but one: both stand in
 * `data-` attributes, which other programs pass over, and stops that are ours alone say that they stand between.
 */
export function gradientToSvg(name: string, stops: readonly Stop[]): string {
  const lines = shownStops(stops).map(({ at, colour, own }) => {
    const light = (own?.light ?? 1) > 1 ? ` data-light="${String(own!.light)}"` : '';
    const ease = own?.ease ? ` data-ease="${own.ease}"` : '';
    const between = own ? '' : ' data-between="yes"';
    return `      <stop offset="${String(round(at))}" stop-color="${colour}"${light}${ease}${between}/>`;
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
  const ours = find(gradient, 'stop').filter((stop) => stop['data-between'] !== 'yes');
  const stops = ours.map((stop, i): Stop => {
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
    const ease = EASES.find((e) => e === stop['data-ease']);
    return {
      at: Math.min(1, Math.max(0, at)),
      colour,
      ...(light > 1 && light <= 100 ? { light } : {}),
      ...(ease ? { ease } : {}),
    };
  });
  return checked(stops);
}

/**
 * A colour palette table, the text format of map makers: slices from value to value with their colours. Those that end
 * between our own stops are labelled so.
 */
export function gradientToCpt(name: string, stops: readonly Stop[]): string {
  const shown = shownStops(stops);
  const end = ({ at, colour }: Shown): string =>
    `${round(at).toFixed(4)}\t${parts(colour).join('/')}`;
  const lines = shown.slice(1).flatMap((to, i) => {
    // A slice without a width is none.
    if (round(to.at) === round(shown[i]!.at)) return [];
    return [`${end(shown[i]!)}\t${end(to)}${to.own ? '' : `\t;${BETWEEN}`}`];
  });
  return `# ${name}\n# COLOR_MODEL = RGB\n${lines.join('\n')}\n`;
}

const BETWEEN = 'between';

/** @throws GradientError that names the line */
export function gradientOfCpt(text: string): Stop[] {
  const ends: { value: number; rgb: Rgb }[] = [];
  // Where the last slice ended between stops: the next one begins there.
  let inside = '';
  text.split(/\r?\n/).forEach((raw, i) => {
    const [line = '', label] = raw.split(';').map((part) => part.trim());
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
    const own = [
      inside === String([v0, r0, g0, b0]) ? null : [v0, r0, g0, b0],
      label === BETWEEN ? null : [v1, r1, g1, b1],
    ];
    inside = label === BETWEEN ? String([v1, r1, g1, b1]) : '';
    for (const [value, ...rgb] of own.filter((e) => e !== null) as [
      number,
      number,
      number,
      number,
    ][]) {
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
