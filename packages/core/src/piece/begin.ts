import { catalogue, kindOf } from '../sections';
import type { EmitterKind, Places, StockAt } from '../sections/kinds';
import { takesEachPlace } from '../sections/swarms/swarmDials';
import { isGradient, overOf, type DialValue, type NumberFeed } from '../feeds/feeds';
import { GRADIENT_SET } from '../feeds/gradientSet';
import type { DialSpec } from '../language/dials';
import type { StockData } from '../stock/types';
import { placementDials } from '../language/placement';
import { makeSwarm } from './create';
import type { Swarm } from './types';

/** How swarms begin that are chosen in the interface: so that they are seen, and as what they are. */

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
 * A look that shows the places of an emitter as they are: as large as they are apart, in their own colours where
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

/**
 * A swarm that is born from a thing of the stock, or from what is to play it; undefined where no emitter is made for
 * such.
 */
export function swarmFrom(
  stock: string,
  data: StockData,
  among: readonly Swarm[],
): Swarm | undefined {
  for (const { kind, dials } of catalogue.emitters) {
    // What it is born on is its own dial; of its place there are others, as the line it is carried along.
    const takes = ([key, spec]: [string, DialSpec]): boolean => {
      if (key in placementDials) return false;
      if (data.type === 'motion') return spec.type === 'part' && spec.of === 'performers';
      if (spec.type !== 'stock') return false;
      return data.type === 'clip' ? spec.moving === true : spec.accepts.join() === data.type;
    };
    const key = Object.entries(dials).find(takes)?.[0];
    if (key === undefined) continue;
    const swarm = firstSwarm(kind, among);
    swarm.emitter.dials[key] = stock;
    return begunWhole(swarm, (id) => (id === stock ? data : undefined));
  }
  return undefined;
}

/** Whether a dial begins each life with so little of its quantity that the particle is as good as not there. */
export function fadesIn(value: NumberFeed): boolean {
  const over = overOf(value);
  return over !== undefined && over[0]!.y <= 0.05;
}

/**
 * Lets a swarm's particles live for ever. What fades in over life would never be seen of them: it is there at
 * once. The swarm is changed.
 */
export function livingForEver({ dials }: Swarm): void {
  dials.lasts = 'ever';
  for (const key of ['opacity', 'size', 'light'] as const) {
    const value = dials[key];
    if (typeof value === 'number' || !fadesIn(value)) continue;
    const rest = { ...value };
    delete rest.over;
    dials[key] = rest.feed === 'fixed' ? rest.value : rest;
  }
}
