import { catalogue, kindOf, type Shelf } from '../catalogue';
import { defaults, type DialSpec } from '../language/dials';
import type { EmitterKind, Places, StockAt } from '../catalogue/kinds';
import { swarmDials, takesEachPlace } from '../catalogue/swarmDials';
import { isGradient, type DialValue } from '../feeds/feeds';
import { GRADIENT_SET } from '../feeds/gradientSet';
import type { StockData } from '../stock/types';
import { FORMAT, VERSION, type Choice, type Part, type Piece, type Swarm } from './types';

/** An id that none of the parts has. */
export function freshId(base: string, parts: readonly { id: string }[]): string {
  const taken = new Set(parts.map((p) => p.id));
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}-${String(n)}`;
    if (!taken.has(id)) return id;
  }
}

/** A name that none of the parts has: 'Wind', 'Wind 2', …. */
export function freshName(base: string, parts: readonly { name: string }[]): string {
  const taken = new Set(parts.map((p) => p.name));
  for (let n = 1; ; n++) {
    const name = n === 1 ? base : `${base} ${String(n)}`;
    if (!taken.has(name)) return name;
  }
}

export function makeChoice(shelf: Shelf, kind: string): Choice {
  return { kind, dials: defaults(kindOf(shelf, kind).dials) };
}

export function makePart(shelf: Shelf, kind: string, among: readonly Part[]): Part {
  const { title } = kindOf(shelf, kind);
  const part = { id: freshId(kind, among), name: freshName(title, among), on: true };
  return { ...part, ...makeChoice(shelf, kind) };
}

/** A swarm that can be seen at once: births fade in and out, with a little glow. */
export function makeSwarm(emitter: string, among: readonly Swarm[]): Swarm {
  return {
    id: freshId('swarm', among),
    name: freshName('Swarm', among),
    on: true,
    emitter: makeChoice('emitters', emitter),
    launch: makeChoice('launches', 'outward'),
    bodies: [makePart('bodies', 'disc', [])],
    dials: {
      ...defaults(swarmDials),
      opacity: {
        feed: 'fixed',
        value: 0.8,
        over: [
          { x: 0, y: 0 },
          { x: 0.15, y: 1 },
          { x: 1, y: 0 },
        ],
      },
    },
    copies: [],
  };
}

/** Gradients of the set that swarms begin with in turn; what rises to bright there is turned round. */
const FIRST_COLOURS = [
  { name: 'Foam', rises: true },
  { name: 'Lantern', rises: false },
  { name: 'Harbour dusk', rises: true },
  { name: 'Beacon', rises: false },
  { name: 'Mussel', rises: true },
  { name: 'Ember', rises: true },
];

/** A swarm to begin with: coloured, and with particles that differ. */
export function firstSwarm(emitter: string, among: readonly Swarm[]): Swarm {
  const swarm = makeSwarm(emitter, among);
  const { name, rises } = FIRST_COLOURS[among.length % FIRST_COLOURS.length]!;
  const { stops } = GRADIENT_SET.find((g) => g.name === name)!;
  const turned = [...stops].reverse().map((s) => ({ ...s, at: 1 - s.at }));
  Object.assign(swarm.dials, {
    size: { feed: 'spread', from: 0.015, to: 0.05 },
    colour: { feed: 'gradient', by: 'life', stops: rises ? turned : [...stops] },
    light: { feed: 'spread', from: 0.4, to: 1.6 },
  });
  swarm.dials.when = 'steadily';
  return begunWhole(swarm);
}

/** Part of the way to the next place that a particle takes up: what stands in a row is told apart. */
const ROW = 0.45;
/** Discs of a surface reach over their neighbours, so that it is closed. */
const SURFACE = 1.6;

/**
 * What shows the places of an emitter as they are: as large as they are apart, in their own colours where
 * they have any, each covering what is behind it.
 */
export function lookOfPlaces({ spacing, coloured }: Places): Record<string, DialValue> {
  const apart = spacing();
  const size = Math.min(100, apart * (coloured ? SURFACE : ROW));
  return {
    ...(apart > 0 && Number.isFinite(apart) ? { size } : {}),
    ...(coloured ? { colour: { feed: 'place' as const } } : {}),
  };
}

/**
 * A swarm whose emitter is shown whole begins with all its places once: they stay, where they are, for
 * ever. Of any other, what was born so is born steadily again. The swarm is changed.
 */
export function begunWhole(swarm: Swarm, stock: StockAt = () => undefined): Swarm {
  const kind: EmitterKind = kindOf('emitters', swarm.emitter.kind);
  const { dials } = swarm;
  if (!kind.shownWhole) {
    if (!kind.places && takesEachPlace(dials))
      Object.assign(dials, { when: 'steadily', lasts: 'time' });
    return swarm;
  }
  Object.assign(dials, { when: 'once', lasts: 'ever', opacity: 1, light: 1 });
  if ('speed' in swarm.launch.dials) swarm.launch.dials.speed = 0;
  const { colour } = dials;
  if (isGradient(colour) && colour.by === 'life') dials.colour = { ...colour, by: 'random' };
  for (const body of swarm.bodies) if ('mode' in body.dials) body.dials.mode = 'opaque';
  const places = kind.places?.(swarm.emitter.dials, stock);
  if (places) Object.assign(dials, lookOfPlaces(places));
  return swarm;
}

/** A swarm that is born from a thing of the stock; undefined where no emitter is made for such. */
export function swarmFrom(
  stock: string,
  data: StockData,
  among: readonly Swarm[],
): Swarm | undefined {
  for (const { kind, dials } of catalogue.emitters) {
    const takes = ([, spec]: [string, DialSpec]): boolean =>
      spec.type === 'stock' && spec.accepts.length === 1 && spec.accepts[0] === data.type;
    const key = Object.entries(dials).find(takes)?.[0];
    if (key === undefined) continue;
    const swarm = firstSwarm(kind, among);
    swarm.emitter.dials[key] = stock;
    return begunWhole(swarm, (id) => (id === stock ? data : undefined));
  }
  return undefined;
}

export function makePiece(name: string): Piece {
  const finish: Part[] = [];
  for (const kind of ['bloom', 'exposure']) finish.push(makePart('finish', kind, finish));
  return {
    format: FORMAT,
    version: VERSION,
    name,
    seed: 1,
    frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 0 },
    backdrop: makeChoice('backdrops', 'radial'),
    camera: makeChoice('cameras', 'perspective'),
    lights: [],
    density: 1,
    swarms: [],
    forces: [],
    colliders: [],
    signals: [],
    stock: [],
    influence: {},
    finish,
  };
}
