import { colord } from 'colord';
import {
  isFixed,
  isGradient,
  isLayers,
  isMap,
  isSignal,
  isSpread,
  type ColourFeed,
  type DialValue,
  type FrameFeed,
  type NumberFeed,
  type VectorFeed,
} from '../../feeds/feeds';
import type { Stop } from '../../feeds/gradient';
import type { NumberDial, VectorDial } from '../../language/dials';

/** Random numbers of one dial: the same for the same purpose. */
export interface Luck {
  /** Uniform in [0, 1). */
  chance: (purpose: string) => number;
  /** Normal, of mean 0 and deviation 1, within three of it. */
  normal: (purpose: string) => number;
}

type Limits = Pick<NumberDial | VectorDial, 'min' | 'max'> &
  Partial<Pick<NumberDial, 'whole' | 'drag'>>;

/** Dials with so large a range count things by the thousand, which cost time. */
const COSTLY = 100_000;
/** Ranges up to this are turned by a part of themselves; larger ones by a part of the value. */
const NARROW = 4;

/** A number that is turned by `by` deviations. What is 0 in a wide range is off, and stays so. */
function turnedNumber(value: number, spec: Limits, reach: number, by: number): number {
  const span = spec.max - spec.min;
  const far = by * reach * (spec.max >= COSTLY ? 0.3 : 1);
  let next: number;
  if (spec.drag === 'log' && value > 0) next = value * Math.exp(1.1 * far);
  else if (span <= NARROW) next = value + 0.35 * span * far;
  else next = value + 0.6 * Math.abs(value) * far;
  const inside = Math.min(spec.max, Math.max(spec.min, next));
  return spec.whole ? Math.round(inside) : Number(inside.toPrecision(6));
}

/** A number's feed: what it is between is turned as one. Formulas are left as they are. */
export function turnedFeed(feed: NumberFeed, spec: Limits, reach: number, luck: Luck): NumberFeed {
  const by = luck.normal('value');
  const turn = (v: number): number => turnedNumber(v, spec, reach, by);
  if (typeof feed === 'number') return turn(feed);
  if (isFixed(feed)) return { ...feed, value: turn(feed.value) };
  if (isSpread(feed)) {
    // A spread gets wider or narrower beside.
    const [from, to] = [turn(feed.from), turn(feed.to)];
    const width = 0.5 * (to - from) * (Math.exp(0.5 * reach * luck.normal('width')) - 1);
    const inside = (v: number): number => Math.min(spec.max, Math.max(spec.min, v));
    return { ...feed, from: inside(from - width), to: inside(to + width) };
  }
  if (isSignal(feed) || isMap(feed)) return { ...feed, from: turn(feed.from), to: turn(feed.to) };
  return feed;
}

/** A vector, each component by itself. */
export function turnedVector(
  feed: VectorFeed,
  spec: VectorDial,
  reach: number,
  luck: Luck,
): VectorFeed {
  return feed.map((part, i) => {
    const own: Luck = {
      chance: (p) => luck.chance(`${p}.${String(i)}`),
      normal: (p) => luck.normal(`${p}.${String(i)}`),
    };
    return turnedFeed(part, spec, reach, own);
  }) as [FrameFeed, FrameFeed, FrameFeed];
}

/** A colour whose hue is turned by so many degrees, and that is a little more or less colourful and bright. */
function turnedHex(hex: string, degrees: number, reach: number, luck: Luck): string {
  const colour = colord(hex).rotate(degrees);
  const { h, s, l } = colour.toHsl();
  const part = (v: number, by: number): number => Math.min(100, Math.max(0, v * Math.exp(by)));
  const next = {
    h,
    s: part(s, 0.5 * reach * luck.normal('colourful')),
    l: part(l, 0.35 * reach * luck.normal('bright')),
  };
  return colord(next).toHex();
}

export function turnedStops(
  stops: readonly Stop[],
  degrees: number,
  reach: number,
  luck: Luck,
): Stop[] {
  const glow = Math.exp(0.5 * reach * luck.normal('light'));
  return stops.map((stop) => ({
    ...stop,
    colour: turnedHex(stop.colour, degrees, reach, luck),
    ...(stop.light === undefined
      ? {}
      : { light: Math.min(100, Number((stop.light * glow).toPrecision(4))) }),
  }));
}

/** Whatever a colour is fed by; what has none of its own is left as it is. */
export function turnedColour(
  feed: ColourFeed,
  degrees: number,
  reach: number,
  luck: Luck,
): DialValue {
  if (typeof feed === 'string') return turnedHex(feed, degrees, reach, luck);
  const stops = (all: readonly Stop[]): Stop[] => turnedStops(all, degrees, reach, luck);
  if (isGradient(feed)) return { ...feed, stops: stops(feed.stops) };
  if (!isLayers(feed)) return feed;
  const layers = feed.layers.map((l) => (l.stops ? { ...l, stops: stops(l.stops) } : l));
  return { ...feed, layers, stops: stops(feed.stops) };
}
