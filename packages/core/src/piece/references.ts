import { namedTogether, PART_LISTS, sectionOf } from '../sections/lists';
import type { PartList, Piece } from './types';
import type { DialSpec } from '../language/dials';
import { isLayers, type DialValue } from '../feeds/feeds';
import { madeType } from '../stock/makers';
import type { StockType } from '../stock/types';
import { formulaSignals, parseFormula } from '../formula/parse';
import { loopThrough, namesOf, numberControls } from './chains';
import { controlProblems } from './controls';
import { influenceProblems } from './influence';
import { dialsOf, partsIn, signalsIn, stockNamed, type DialPlace } from './walk';

interface ReferenceProblem {
  path: (string | number)[];
  message: string;
}

/** The layers of a colour take pictures alone. */
function acceptedBy(spec: DialSpec): readonly StockType[] {
  return 'accepts' in spec ? spec.accepts : ['picture'];
}

/** Ids that are used twice, and names of things that are not there. */
export function referenceProblems(piece: Piece): ReferenceProblem[] {
  const signals = new Set([
    ...piece.signals.flatMap(namesOf),
    ...numberControls(piece).map((c) => c.id),
  ]);
  return [
    ...idProblems(piece),
    ...sourceProblems(piece),
    ...[...dialsOf(piece)].flatMap((dial) => dialProblems(piece, dial, signals)),
    ...loopProblems(piece),
    ...leaderProblems(piece),
    ...influenceProblems(piece),
    ...controlProblems(piece),
  ];
}

function idProblems(piece: Piece): ReferenceProblem[] {
  const shared: string[] = namedTogether().flat();
  const alone = PART_LISTS.filter((list) => !shared.includes(list)).map((list) => [list]);
  const inLists = [...namedTogether(), ...alone].flatMap((lists) =>
    usedTwice(
      lists.flatMap((list) => piece[list].map(({ id }, i) => ({ id, path: [list, i, 'id'] }))),
      'twice',
    ),
  );
  const inSwarms = piece.swarms.flatMap(({ bodies }, i) =>
    usedTwice(
      bodies.map(({ id }, k) => ({ id, path: ['swarms', i, 'bodies', k, 'id'] })),
      'twice in this swarm',
    ),
  );
  return [...inLists, ...inSwarms];
}

/** Each id that has been there before. */
function usedTwice(
  ids: readonly { id: string; path: (string | number)[] }[],
  where: string,
): ReferenceProblem[] {
  const seen = new Set<string>();
  return ids.flatMap(({ id, path }) => {
    if (seen.has(id)) return [{ path, message: `the id '${id}' is used ${where}` }];
    seen.add(id);
    return [];
  });
}

/** Things of the stock of another type than what they come from. */
function sourceProblems(piece: Piece): ReferenceProblem[] {
  const problems: ReferenceProblem[] = [];
  piece.stock.forEach(({ type, source }, i) => {
    if ('words' in source && type !== 'outline' && type !== 'mesh') {
      const message = `words are of the type outline or mesh, not ${type}`;
      problems.push({ path: ['stock', i, 'type'], message });
    }
    const really = 'made' in source ? madeType(source.made) : 'path' in source ? 'outline' : type;
    if (really === type) return;
    const message = `what it comes from is of the type ${String(really)}, not ${type}`;
    problems.push({ path: ['stock', i, 'type'], message });
  });
  return problems;
}

/** Names in a dial that are not there, or cannot be named there. */
function dialProblems(
  piece: Piece,
  dial: DialPlace,
  signals: ReadonlySet<string>,
): ReferenceProblem[] {
  const { spec, value, path } = dial;
  const name = typeof value === 'string' ? value : '';
  const said: string[] = [];
  const read = spec.type === 'formula' ? formulaSignals(name) : [];
  for (const id of [...signalsIn(value), ...read]) {
    if (!signals.has(id)) said.push(`there is no signal '${id}'`);
  }
  said.push(...stockProblems(piece, dial), ...layerProblems(piece, value));
  if (spec.type === 'part' && name) {
    const there =
      spec.of === 'signals'
        ? signals.has(name)
        : partsIn(piece, spec.of).some((s) => s.id === name);
    if (!there) said.push(`there is no ${sectionOf(spec.of as PartList).one} '${name}'`);
  }
  if (spec.type === 'swarm' && name && !piece.swarms.some((s) => s.id === name)) {
    said.push(`there is no swarm '${name}'`);
  }
  return said.map((message) => ({ path, message }));
}

function stockProblems(piece: Piece, { spec, value }: DialPlace): string[] {
  const fed = typeof value === 'object' && 'feed' in value;
  return stockNamed(spec, value).flatMap((item) => {
    const takesMoving = 'moving' in spec || fed;
    if (takesMoving && piece.pictures.some((p) => p.id === item)) return [];
    const takesMedium = 'medium' in spec || fed;
    if (takesMedium && piece.media.some((m) => m.id === item)) return [];
    const entry = piece.stock.find((s) => s.id === item);
    if (!entry) return [`the stock has no '${item}'`];
    if (acceptedBy(spec).includes(entry.type)) return [];
    return [`'${entry.id}' is a ${entry.type}; wanted is ${acceptedBy(spec).join(' or ')}`];
  });
}

function layerProblems(piece: Piece, value: DialValue): string[] {
  return (isLayers(value) ? value.layers : []).flatMap((layer) => {
    const said: string[] = [];
    const other = layer.by === 'swarm' && layer.swarm;
    if (other && !piece.swarms.some((s) => s.id === other))
      said.push(`there is no swarm '${other}'`);
    try {
      if (layer.text !== undefined) parseFormula(layer.text, true);
    } catch (error) {
      said.push((error as Error).message);
    }
    return said;
  });
}

/** Signals that are made from each other in a circle. */
function loopProblems(piece: Piece): ReferenceProblem[] {
  return piece.signals.flatMap(({ id }, i) => {
    const loop = loopThrough(piece, id);
    // A loop is told once, at the first that stands in it.
    if (!loop || loop.some((at) => piece.signals.findIndex((s) => s.id === at) < i)) return [];
    const names = loop.map((at) => piece.signals.find((s) => s.id === at)!.name);
    const message = `the signals are made from each other in a circle: ${names.join(' → ')}`;
    return [{ path: ['signals', i], message }];
  });
}

function leaderProblems(piece: Piece): ReferenceProblem[] {
  return piece.swarms.flatMap(({ follows }, i) => {
    if (follows === undefined) return [];
    const leader = piece.swarms.find((s) => s.id === follows);
    const path = ['swarms', i, 'follows'];
    if (!leader) return [{ path, message: `there is no swarm '${follows}'` }];
    if (leader.follows === undefined) return [];
    const message = `'${follows}' follows another swarm itself; follow that one`;
    return [{ path, message }];
  });
}
