import { namedTogether, PART_LISTS, sectionOf } from '../sections/lists';
import type { PartList, Piece } from './types';
import type { DialSpec } from '../language/dials';
import { isLayers } from '../feeds/feeds';
import { madeType } from '../stock/makers';
import type { StockType } from '../stock/types';
import { formulaSignals, parseFormula } from '../formula/parse';
import { loopThrough, namesOf, numberControls } from './chains';
import { controlProblems } from './controls';
import { influenceProblems } from './influence';
import { dialsOf, signalsIn, stockNamed } from './walk';

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
  const problems: ReferenceProblem[] = [];
  const twice = (lists: readonly (PartList | 'stock')[]) => {
    const seen = new Set<string>();
    for (const list of lists) {
      piece[list].forEach((part, i) => {
        if (seen.has(part.id)) {
          problems.push({ path: [list, i, 'id'], message: `the id '${part.id}' is used twice` });
        }
        seen.add(part.id);
      });
    }
  };
  namedTogether().forEach(twice);
  const shared: string[] = namedTogether().flat();
  for (const list of PART_LISTS) if (!shared.includes(list)) twice([list]);
  piece.swarms.forEach(({ bodies }, i) => {
    const seen = new Set<string>();
    bodies.forEach(({ id }, k) => {
      if (!seen.has(id)) return void seen.add(id);
      const path = ['swarms', i, 'bodies', k, 'id'];
      problems.push({ path, message: `the id '${id}' is used twice in this swarm` });
    });
  });
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
  const signals = new Set([
    ...piece.signals.flatMap(namesOf),
    ...numberControls(piece).map((c) => c.id),
  ]);
  for (const { spec, value, path } of dialsOf(piece)) {
    for (const id of signalsIn(value)) {
      if (!signals.has(id)) problems.push({ path, message: `there is no signal '${id}'` });
    }
    const name = typeof value === 'string' ? value : '';
    for (const item of stockNamed(spec, value)) {
      const fed = typeof value === 'object' && 'feed' in value;
      const takesMoving = 'moving' in spec || fed;
      if (takesMoving && piece.pictures.some((p) => p.id === item)) continue;
      const takesMedium = 'medium' in spec || fed;
      if (takesMedium && piece.media.some((m) => m.id === item)) continue;
      const entry = piece.stock.find((s) => s.id === item);
      if (!entry) problems.push({ path, message: `the stock has no '${item}'` });
      else if (!acceptedBy(spec).includes(entry.type)) {
        const message = `'${entry.id}' is a ${entry.type}; wanted is ${acceptedBy(spec).join(' or ')}`;
        problems.push({ path, message });
      }
    }
    for (const layer of isLayers(value) ? value.layers : []) {
      const other = layer.by === 'swarm' && layer.swarm;
      if (other && !piece.swarms.some((s) => s.id === other)) {
        problems.push({ path, message: `there is no swarm '${other}'` });
      }
      if (layer.text === undefined) continue;
      try {
        parseFormula(layer.text, true);
      } catch (error) {
        problems.push({ path, message: (error as Error).message });
      }
    }
    if (spec.type === 'formula') {
      for (const id of formulaSignals(name)) {
        if (!signals.has(id)) problems.push({ path, message: `there is no signal '${id}'` });
      }
    }
    if (spec.type === 'part' && name) {
      const there =
        spec.of === 'signals' ? signals.has(name) : piece[spec.of].some((s) => s.id === name);
      if (!there)
        problems.push({
          path,
          message: `there is no ${sectionOf(spec.of).one} '${name}'`,
        });
    }
    if (spec.type === 'swarm' && name && !piece.swarms.some((s) => s.id === name)) {
      problems.push({ path, message: `there is no swarm '${name}'` });
    }
  }
  piece.signals.forEach(({ id }, i) => {
    const loop = loopThrough(piece, id);
    // A loop is told once, at the first that stands in it.
    if (!loop || loop.some((at) => piece.signals.findIndex((s) => s.id === at) < i)) return;
    const names = loop.map((at) => piece.signals.find((s) => s.id === at)!.name);
    const message = `the signals are made from each other in a circle: ${names.join(' → ')}`;
    problems.push({ path: ['signals', i], message });
  });
  piece.swarms.forEach(({ follows }, i) => {
    if (follows === undefined) return;
    const leader = piece.swarms.find((s) => s.id === follows);
    const path = ['swarms', i, 'follows'];
    if (!leader) problems.push({ path, message: `there is no swarm '${follows}'` });
    else if (leader.follows !== undefined) {
      const message = `'${follows}' follows another swarm itself; follow that one`;
      problems.push({ path, message });
    }
  });
  return [...problems, ...influenceProblems(piece), ...controlProblems(piece)];
}
