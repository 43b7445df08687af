import { cos, log, mix, Vec3, type Expr } from '@vast-swarm/kernel';
import { linearRgb, type Rgb } from '../feeds/colour';
import type { LayerReading } from '../feeds/colourLayers';
import {
  isFixed,
  isFormula,
  isGradient,
  isLayers,
  isChannels,
  isColourMap,
  isMap,
  isPlaceColour,
  isSignal,
  isSpread,
  overOf,
  type ColourFeed,
  type ChannelsFeed,
  type FormulaFeed,
  type FrameFeed,
  type GradientFeed,
  type NumberFeed,
  type SignalFeed,
  type SpreadFeed,
  type VectorFeed,
} from '../feeds/feeds';
import { gradientAt } from '../feeds/gradient';
import { shapeAt, type Shape } from '../feeds/shape';
import { changesInLife, isOfParticle, parseFormula } from '../formula/parse';
import { memo } from '../stock/memo';
import type { Performing } from '../stock/motion/performing';
import type { MovingPicture, Picture, StockData } from '../stock/types';
import { TABLE } from './builder';
import type { Dials, KeysOf, PlainKeys, ValueOf } from './dials';
import type { ColourMapFeed, MapFeed } from '../feeds/map';
import { layeredColour } from './layeredColour';
import { mapColour, mapNumber } from './mapSample';
import type { MediumSpace } from './mediumSpace';
import { Owner, partOf, type Name } from './names';
import type { Sampled } from './pictureSample';
import type { ParticleInputs } from './particle';
import { PartReader } from './partReader';
import { formulaOf, readingOf } from './readings';

/** The same part, read by some dials that it shares with others; its kind has seen to it that it has them. */
export function sharedDials<E extends Dials>(part: PartReader, specs: E): DialReader<E> {
  return new DialReader(part.builder, { ...part.source, specs }, part.particle);
}

/** The same part, read by all of its dials. */
export function allDials({ builder, source, particle }: PartReader): DialReader {
  return new DialReader(builder, source, particle);
}

/** A gradient at each place of a table; worked out once for all that read it. */
function gradientTable(stops: GradientFeed['stops']): Rgb[] {
  return memo(stops, 'table', () =>
    Array.from({ length: TABLE }, (_, i) => gradientAt(stops, i / (TABLE - 1))),
  );
}

/**
 * Reads the dials of one part as arithmetic. Values become uniforms and tables, so that turning a
 * dial changes numbers only; the graph changes when the kind of a feed does. Keys and what they give
 * are typed from the part's own dials.
 *
 * @example
 * build(dial, { position }) {
 *   const way = dial.vector('centre').sub(position);
 *   return { push: way.unit().scale(dial.number('strength')) };
 * }
 */
export class DialReader<D extends Dials = Dials> extends PartReader {
  private with(particle: ParticleInputs): DialReader<D> {
    return new DialReader(this.builder, this.source, particle);
  }

  /** The same dials at a moment of the step: 0 its start, 1 its end. */
  atMoment(moment: number | Expr): DialReader<D> {
    const born = typeof moment === 'number' ? this.graph.float(moment) : moment;
    return this.with({ ...this.particle!, born });
  }

  /** The same dials for a place on words. */
  onLetter(letter: Expr): DialReader<D> {
    return this.with({ ...this.particle!, letter });
  }

  /** The same dials for a place along something, 0 to 1: shapes and gradients over life run along it. */
  along(place: Expr): DialReader<D> {
    return this.with({ ...(this.particle ?? { swarm: '', id: this.graph.int(0) }), life: place });
  }

  /** The dial's value as the file has it. */
  raw<K extends keyof D & string>(key: K): ValueOf<D[K]> {
    return this.source.values[key] as ValueOf<D[K]>;
  }

  choice<K extends KeysOf<D, 'choice'>>(key: K): ValueOf<D[K]> {
    return this.raw(key);
  }

  /** The plain number of a dial that never varies, on the host. */
  plain(key: PlainKeys<D>): number {
    return this.source.values[key] as number;
  }

  stock(key: KeysOf<D, 'stock'>): StockData | undefined {
    return this.builder.scene.stock(this.source.values[key] as string);
  }

  /** A picture of the stock, or a moving one of the piece. */
  picture(key: KeysOf<D, 'stock'>): Picture | MovingPicture | undefined {
    return this.builder.scene.picture(this.source.values[key] as string);
  }

  /** The same, or a medium of the piece. */
  shown(key: KeysOf<D, 'stock'>): Sampled | undefined {
    return this.builder.scene.shown(this.source.values[key] as string);
  }

  medium(key: KeysOf<D, 'part'>): MediumSpace | undefined {
    return this.builder.scene.medium(this.source.values[key] as string);
  }

  /** A performer of the piece. */
  performer(key: KeysOf<D, 'part'>): Performing | undefined {
    return this.builder.scene.performer(this.source.values[key] as string);
  }

  number(key: KeysOf<D, 'number'>): Expr {
    const name = this.source.owner.dial(key);
    const value = this.source.values[key] as NumberFeed;
    if (typeof value === 'number') return this.builder.uniform(name, value);
    const base = this.base(name, key, value);
    const over = overOf(value);
    return over ? base.mul(this.overLife(name, over)) : base;
  }

  /** A feed without its shape over life; `name` is the dial's, or a part of it. */
  base(name: Name, key: string, value: Exclude<NumberFeed, number>): Expr {
    if (isSpread(value)) return this.spread(name, key, value);
    if (isFixed(value)) return this.builder.uniform(name, value.value);
    // What is kept from birth is found once, by the birth kernel, and read from the state after.
    if (this.isKept(value)) {
      return this.keep(`keep/${name}`, ({ fed }) => fed(this.source, name, key, value));
    }
    if (isMap(value)) return mapNumber(this, name, value);
    return isFormula(value) ? this.formula(name, value) : this.frameFed(name, value);
  }

  private isKept(value: SignalFeed | FormulaFeed | MapFeed): boolean {
    const atBirth = this.particle === null || this.particle.born !== undefined;
    if (value.evaluate !== 'birth' || atBirth) return false;
    return isSignal(value) || isMap(value) || changesInLife(parseFormula(value.text, true));
  }

  /** A value of the host's that changes with time; in births, as of the moment of each birth. */
  frameFed(name: Name, feed: FrameFeed): Expr {
    const { builder, particle } = this;
    if (typeof feed === 'number') return builder.uniform(name, feed);
    const follow = builder.scene.follow(feed);
    if (!particle?.born) return builder.uniform(name, (f) => follow(f.time));
    const at = (frame: number, more: number): number =>
      follow((builder.scene.phase(frame) + more) / this.rate);
    const start = builder.uniform(partOf(name, 'start'), (f) => at(f.frame, 0));
    const end = builder.uniform(partOf(name, 'end'), (f) => at(f.frame, 1));
    return mix(start, end, particle.born);
  }

  private formula(name: Name, value: FormulaFeed): Expr {
    const parsed = parseFormula(value.text, true);
    if (!isOfParticle(parsed)) return this.frameFed(name, value);
    const [low, high] = [Math.min(value.from, value.to), Math.max(value.from, value.to)];
    const bound = (end: string, v: number): Expr => this.builder.uniform(partOf(name, end), v);
    return formulaOf(this, parsed).max(bound('low', low)).min(bound('high', high));
  }

  /** A reading of the particle; `distance` is from the origin. */
  readingOf(name: LayerReading): Expr {
    if (name !== 'distance') return readingOf(this, name);
    return this.particle!.readings?.position.length() ?? this.graph.float(0);
  }

  /** A formula's value for the particle. */
  formulaValue(text: string): Expr {
    return formulaOf(this, parseFormula(text, true));
  }

  /** A whole number that does not vary, i32. */
  whole(key: PlainKeys<D>): Expr {
    return this.builder.uniform(this.source.owner.dial(key), this.plain(key), 'i32');
  }

  vector(key: KeysOf<D, 'vector'>): Vec3 {
    const parts = this.source.values[key] as VectorFeed;
    const part = (i: number): Expr =>
      this.frameFed(this.source.owner.dial(key, 'xyz'[i]!), parts[i]!);
    return new Vec3(part(0), part(1), part(2));
  }

  /** Linear light. */
  colour(key: KeysOf<D, 'colour'>): Vec3 {
    const name = this.source.owner.dial(key);
    const value = this.source.values[key] as ColourFeed;
    if (isPlaceColour(value)) return this.placeColour();
    if (isColourMap(value)) return this.mapped(name, key, value);
    if (isChannels(value)) return this.channels(name, key, value);
    if (isLayers(value)) return layeredColour(this, name, key, value);
    if (!isGradient(value)) return this.builder.vector(name, linearRgb(value));
    return this.ramp(name, value.stops, this.gradientPlace(name, key, value));
  }

  /** A colour that is looked up; kept from birth, each of its parts is a number of its own. */
  private mapped(name: Name, key: string, value: ColourMapFeed): Vec3 {
    if (value.evaluate !== 'birth' || this.particle?.born) return mapColour(this, name, value);
    const { light = 1, ...lookup } = value;
    const part = (channel: 'red' | 'green' | 'blue'): Expr =>
      // Light over 1 is no part of a picture, which limits to 0 and 1 leave as it is.
      this.base(partOf(name, channel), key, { ...lookup, channel, from: 0, to: light });
    return new Vec3(part('red'), part('green'), part('blue'));
  }

  /** A colour whose parts follow signals; what is below 0 gives no light. */
  private channels(name: Name, key: string, value: ChannelsFeed): Vec3 {
    const { evaluate } = value;
    const one = (part: 'red' | 'green' | 'blue'): Expr => {
      const { signal, from, to } = value[part];
      const own = partOf(name, part);
      if (signal === undefined) return this.builder.uniform(own, from);
      const feed = { feed: 'signal' as const, signal, from, to };
      return this.base(own, key, { ...feed, ...(evaluate ? { evaluate } : {}) }).max(0);
    };
    return new Vec3(one('red'), one('green'), one('blue'));
  }

  /** Another swarm's colour for this particle; its own layers of swarms are left out. */
  colourAs(swarm: string): Vec3 | null {
    const other = this.builder.scene.colouring(swarm);
    if (!other) return null;
    const { id, specs, values } = other;
    const { colour } = values;
    if (isLayers(colour!) && colour.layers.some((l) => l.by === 'swarm')) return null;
    const source = { owner: new Owner('swarm', id), label: `${id}.swarm`, specs, values };
    const reader = new DialReader(this.builder, source, this.particle);
    return reader.colour('colour').scale(reader.number('light'));
  }

  /** Linear light of the place where the particle was born. */
  placeColour(): Vec3 {
    return this.particle?.placeColour ?? this.keepVec('colour', ({ colour }) => colour);
  }

  /** A gradient at a place, 0 to 1, in linear light. */
  ramp(name: Name, stops: GradientFeed['stops'], at: Expr): Vec3 {
    const colours = gradientTable(stops);
    const sample = (channel: number): Expr => {
      const samples = (x: number): number => colours[Math.round(x * (TABLE - 1))]![channel]!;
      return this.builder.table(partOf(name, 'rgb'[channel]!), samples, at);
    };
    return new Vec3(sample(0), sample(1), sample(2));
  }

  private gradientPlace(name: Name, key: string, value: GradientFeed): Expr {
    const { by, evaluate, signal, text } = value;
    const start = this.graph.float(0);
    if (by === 'random') return this.random(key, evaluate === 'live');
    const feed = { from: 0, to: 1, ...(evaluate ? { evaluate } : {}) };
    const place = partOf(name, 'by');
    if (by === 'signal' && signal !== undefined) {
      return this.base(place, key, { feed: 'signal', signal, ...feed });
    }
    if (by === 'formula' && text !== undefined) {
      return this.base(place, key, { feed: 'formula', text, ...feed });
    }
    return evaluate === 'birth' ? start : (this.particle?.life ?? start);
  }

  private spread(name: Name, key: string, { from, to, distribution, evaluate }: SpreadFeed): Expr {
    const a = this.builder.uniform(partOf(name, 'from'), from);
    const b = this.builder.uniform(partOf(name, 'to'), to);
    const live = evaluate === 'live';
    const t = this.random(key, live);
    if (distribution !== 'normal') return mix(a, b, t);
    // Box and Muller 1958; three standard deviations reach the ends.
    const angle = this.random(`${key}.angle`, live).mul(2 * Math.PI);
    const radius = log(this.graph.float(1).sub(t)).mul(-2).sqrt();
    return mix(a, b, radius.mul(cos(angle)).div(6).add(0.5).clamp(0, 1));
  }

  private overLife(name: Name, over: Shape): Expr {
    const life = this.particle?.life ?? this.graph.float(0);
    return this.builder.table(partOf(name, 'over'), (x) => shapeAt(over, x), life);
  }
}
