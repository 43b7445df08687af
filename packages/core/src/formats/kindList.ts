import { catalogue, type Shelf } from '../sections';
import { swarmDials } from '../sections/swarms/swarmDials';
import { NO_SWARM, type DialSpec, type Dials } from '../language/dials';

/** The list of kinds in docs/file-format.md, made from the catalogue. */

const tidy = (n: number): string =>
  Math.abs(n) >= 1e6 ? n.toExponential().replace('+', '') : String(n);

/** The values a dial may have, and its default, in words. */
function valuesText(spec: DialSpec): string {
  const unit = 'unit' in spec && spec.unit ? ` ${spec.unit}` : '';
  switch (spec.type) {
    case 'number': {
      const limits = `${tidy(spec.min)} to ${tidy(spec.max)}${unit}`;
      const whole = spec.whole ? ', whole' : '';
      const value = typeof spec.default === 'number' ? String(spec.default) : feedText(spec);
      return `${value} (${limits}${whole})`;
    }
    case 'vector':
      return `[${spec.default.join(', ')}] (each ${tidy(spec.min)} to ${tidy(spec.max)}${unit})`;
    case 'choice': {
      const others = spec.options.map((o) => o.value).filter((v) => v !== spec.default);
      return `${spec.default} (or ${others.join(', ')})`;
    }
    case 'colour':
      return typeof spec.default === 'string' ? spec.default : 'a gradient';
    case 'stock':
      return `none (${spec.accepts.join(', ')}${spec.moving ? ', or one of the pictures' : ''})`;
    case 'stocks':
      return `none (${spec.accepts.join(', ')})`;
    case 'swarm':
      return spec.none === NO_SWARM
        ? 'none (a swarm)'
        : `${spec.none.toLowerCase()} (or one of them)`;
    case 'part':
      return `none (one of the ${spec.of})`;
    case 'joints':
      return spec.most === 1 ? 'none (the name of a joint)' : 'all (or names of joints)';
    case 'radii':
      return 'none (`joint` and `radius` in metres of each)';
    case 'formula':
      return spec.default;
    case 'keys':
      return `${String(spec.default.length)} keys`;
    case 'take':
    case 'strokes':
    case 'mask':
    case 'label':
    case 'learnt':
      return 'none';
    case 'shortcut':
      return 'none (a letter, a digit or F1 to F12)';
    case 'option':
      return 'none (an option of the dials that it moves)';
    case 'stops':
      return `${String(spec.default.length)} stops`;
    case 'moves':
      return 'none (`place`, and `from`, `to`, `ease` of each)';
    case 'sets':
      return 'none (`control` and `to` of each)';
    case 'bursts':
      return 'none (`swarm` and `count` of each)';
  }
}

/** A default that is more than a number: what of it there is to say. */
function feedText({ default: value }: DialSpec & { type: 'number' }): string {
  if (typeof value === 'number') return String(value);
  return value.feed === 'fixed'
    ? `${String(value.value)}, shaped`
    : `${String(value.from)}–${String(value.to)}`;
}

function dialsText(dials: Dials): string[] {
  return Object.entries(dials).map(
    ([key, spec]) => `  - \`${key}\`: ${valuesText(spec)}. ${spec.help}`,
  );
}

/** Dials that every kind of a shelf has, so that they are told once. */
function commonTo(kinds: readonly { dials: Dials }[]): string[] {
  const [first, ...others] = kinds;
  if (others.length === 0) return [];
  return Object.keys(first!.dials).filter((key) =>
    others.every(({ dials }) => dials[key] === first!.dials[key]),
  );
}

function shelfText(shelf: Shelf): string[] {
  const kinds = catalogue[shelf];
  const common = new Set(commonTo(kinds));
  const some = (dials: Dials, shared: boolean): Dials =>
    Object.fromEntries(Object.entries(dials).filter(([key]) => common.has(key) === shared));
  const own = kinds.flatMap(({ kind, help, dials }) => [
    `- \`${kind}\`: ${help}`,
    ...dialsText(some(dials, false)),
  ]);
  const all =
    common.size > 0 ? ['- every one of them has:', ...dialsText(some(kinds[0]!.dials, true))] : [];
  return [`### ${shelf}`, '', ...own, ...all, ''];
}

/** The list as Markdown: every kind, its dials, what they may be and what they are if nothing is said. */
export function kindList(): string {
  const shelves = Object.keys(catalogue) as Shelf[];
  const swarm = ['### swarms', '', '- every swarm has:', ...dialsText(swarmDials), ''];
  return [...swarm, ...shelves.flatMap(shelfText)].join('\n').trimEnd() + '\n';
}

const HEADING = '\n## Kinds\n';

/** A text of docs/file-format.md with its list of kinds as it should be now. */
export function withKindList(text: string): string {
  const [before] = text.split(HEADING);
  const about =
    'Made from the catalogue by `npm run docs`. What stands first is there if nothing is said.';
  return `${before!}${HEADING}\n${about}\n\n${kindList()}`;
}
