import {
  atan2,
  cos,
  hash,
  log,
  mix,
  random,
  randomKey,
  sin,
  Vec3,
  type Expr,
  type Graph,
} from '@vast-swarm/kernel';
import type { Dials, DialValues } from '../catalogue/dials';
import { linearRgb, type Rgb } from '../feeds/colour';
import {
  isFixed,
  isFormula,
  isGradient,
  isLayers,
  isPlaceColour,
  isSignal,
  isSpread,
  overOf,
  type ColourFeed,
  type FormulaFeed,
  type FrameFeed,
  type GradientFeed,
  type NumberFeed,
  type SignalFeed,
  type SpreadFeed,
  type VectorFeed,
} from '../feeds/feeds';
import type { LayerReading } from '../feeds/colourLayers';
import { gradientAt } from '../feeds/gradient';
import { shapeAt, type Shape } from '../feeds/shape';
import { formulaNode } from '../formula/graph';
import { changesInLife, isOfParticle, parseFormula, type Name } from '../formula/parse';
import { memo, type StockData } from '../stock/stock';
import { layeredColour } from './colourLayers';
import type { KernelBuilder } from './kernelBuilder';

/** Samples in the table of a shape or gradient; read with straight lines between them. */
export const TABLE = 256;

/** A gradient at each place of a table; worked out once for all that read it. */
function gradientTable(stops: GradientFeed['stops']): Rgb[] {
  return memo(stops, 'table', () =>
    Array.from({ length: TABLE }, (_, i) => gradientAt(stops, i / (TABLE - 1))),
  );
}

/** Readings of a particle now, in seconds, metres and m/s. */
export interface Readings {
  age: Expr;
  life: Expr;
  position: Vec3;
  velocity: Vec3;
}

/** What a particle brings to its feeds; pixels and frames have none. */
export interface ParticleInputs {
  swarm: string;
  id: Expr;
  /** Part of life lived, 0 to 1; null at birth. */
  life: Expr | null;
  /** How far into the step it is born, 0 to 1; in the birth kernel only. */
  born?: Expr;
  readings?: Readings;
  /** A state that particles keep from birth. */
  kept?: (name: string) => Expr;
  /** Linear light of the particle's place now, where that changes while it lives. */
  placeColour?: Vec3 | null;
}

/** What can be found out when a particle is born. */
export interface BirthScope {
  reader: (scope: string, specs: Dials, values: DialValues) => DialReader;
  /** World frame. */
  position: Vec3;
  velocity: Vec3;
  colour: Vec3;
}

/**
 * Reads the dials of one part as arithmetic. Values become uniforms and tables, so that turning a
 * dial changes numbers only; the graph changes when the kind of a feed does.
 */
export class DialReader {
  constructor(
    readonly builder: KernelBuilder,
    /** Names the part in uniforms and random purposes. */
    readonly scope: string,
    private readonly specs: Dials,
    private readonly values: DialValues,
    readonly particle: ParticleInputs | null = null,
  ) {}

  get graph(): Graph {
    return this.builder.graph;
  }

  /** The same dials at a moment of the step: 0 its start, 1 its end. */
  atMoment(born: number): DialReader {
    const particle = { ...this.particle!, born: this.graph.float(born) };
    return new DialReader(this.builder, this.scope, this.specs, this.values, particle);
  }

  choice(key: string): string {
    return this.values[key] as string;
  }

  /** The same dials for a place along something, 0 to 1: shapes and gradients over life run along it. */
  along(place: Expr): DialReader {
    const particle = { ...(this.particle ?? { swarm: '', id: this.graph.int(0) }), life: place };
    return new DialReader(this.builder, this.scope, this.specs, this.values, particle);
  }

  /** Seconds of the piece. */
  time(): Expr {
    return this.builder.uniform('frame.time', (f) => f.time);
  }

  /** The plain number of a dial that never varies, on the host. */
  plain(key: string): number {
    return this.values[key] as number;
  }

  raw(key: string): DialValues[string] | undefined {
    return this.values[key];
  }

  stock(key: string): StockData | undefined {
    return this.builder.scene.stock(this.values[key] as string);
  }

  number(key: string): Expr {
    const name = `${this.scope}.${key}`;
    const value = this.values[key] as NumberFeed;
    if (this.specs[key]?.type !== 'number') throw new Error(`plan: '${name}' is no number dial`);
    if (typeof value === 'number') return this.builder.uniform(name, value);
    const base = this.base(name, key, value);
    const over = overOf(value);
    return over ? base.mul(this.overLife(name, over)) : base;
  }

  private base(name: string, key: string, value: Exclude<NumberFeed, number>): Expr {
    if (isSpread(value)) return this.spread(name, value);
    if (isFixed(value)) return this.builder.uniform(name, value.value);
    // What is kept from birth is found once, by the birth kernel, and read from the state after.
    if (this.isKept(value)) {
      return this.keep(`keep.${name}`, ({ reader }) =>
        reader(this.scope, this.specs, this.values).base(name, key, value),
      );
    }
    return isFormula(value) ? this.formula(name, value) : this.frameFed(name, value);
  }

  private isKept(value: SignalFeed | FormulaFeed): boolean {
    const atBirth = this.particle === null || this.particle.born !== undefined;
    if (value.evaluate !== 'birth' || atBirth) return false;
    return isSignal(value) || changesInLife(parseFormula(value.text, true));
  }

  /** A state that particles keep from their birth. */
  keep(name: string, find: (birth: BirthScope) => Expr): Expr {
    this.builder.data.kept.set(name, find);
    return this.particle!.kept!(name);
  }

  /** A value of the host's that changes with time; in births, as of the moment of each birth. */
  frameFed(name: string, feed: FrameFeed): Expr {
    const { builder, particle } = this;
    if (typeof feed === 'number') return builder.uniform(name, feed);
    const follow = builder.scene.follow(feed);
    const start = builder.uniform(name, (f) => follow(f.time));
    if (!particle?.born) return start;
    const step = 1 / builder.scene.rate;
    const end = builder.uniform(`${name}.end`, (f) => follow(f.time + step));
    return mix(start, end, particle.born);
  }

  private formula(name: string, value: FormulaFeed): Expr {
    const parsed = parseFormula(value.text, true);
    if (!isOfParticle(parsed)) return this.frameFed(name, value);
    const [low, high] = [Math.min(value.from, value.to), Math.max(value.from, value.to)];
    const bound = (end: string, v: number): Expr => this.builder.uniform(`${name}.${end}`, v);
    return this.formulaOf(parsed).max(bound('low', low)).min(bound('high', high));
  }

  private formulaOf(parsed: ReturnType<typeof parseFormula>): Expr {
    const pick = (n: Expr): Expr => {
      const key = this.builder.uniform('pick.key', randomKey('pick', this.builder.seed), 'i32');
      return random(this.particle!.id, hash(n).xor(key));
    };
    return formulaNode(parsed, this.graph, (name) => this.reading(name), pick);
  }

  /** A reading of the particle; `distance` is from the origin. */
  readingOf(name: LayerReading): Expr {
    if (name !== 'distance') return this.reading(name);
    return this.particle!.readings?.position.length() ?? this.graph.float(0);
  }

  /** What a formula gives for the particle. */
  formulaValue(text: string): Expr {
    return this.formulaOf(parseFormula(text, true));
  }

  private reading(name: Name): Expr {
    const { builder, graph: g } = this;
    const particle = this.particle!;
    const zero = g.float(0);
    const { readings } = particle;
    const flat = (): Expr => {
      const v = readings!.velocity;
      return v.x.mul(v.x).add(v.z.mul(v.z)).sqrt();
    };
    const degrees = (y: Expr, x: Expr): Expr => atan2(y, x).mul(180 / Math.PI);
    switch (name) {
      case 'time':
        return this.frameTime();
      case 'frame':
        return builder.uniform('frame', (f) => f.frame);
      case 'seed':
        return builder.uniform('seed', builder.seed);
      case 'pi':
        return g.float(Math.PI);
      case 'index':
        return particle.id.toFloat();
      case 'random': {
        const purpose = `${particle.swarm}.random`;
        return random(
          particle.id,
          builder.uniform(`${purpose}.key`, randomKey(purpose, builder.seed), 'i32'),
        );
      }
      case 'age':
        return readings?.age ?? zero;
      case 'life':
        return readings?.life ?? zero;
      case 'lived':
        return particle.life ?? zero;
      case 'x':
      case 'y':
      case 'z':
        return readings?.position[name] ?? zero;
      case 'speed':
        return readings?.velocity.length() ?? zero;
      case 'heading':
        return readings ? degrees(readings.velocity.z.neg(), readings.velocity.x) : zero;
      case 'pitch':
        return readings ? degrees(readings.velocity.y, flat()) : zero;
    }
  }

  private frameTime(): Expr {
    const start = this.time();
    const { particle, builder } = this;
    return particle?.born ? start.add(particle.born.mul(1 / builder.scene.rate)) : start;
  }

  /** A whole number that does not vary, i32. */
  whole(key: string): Expr {
    return this.builder.uniform(`${this.scope}.${key}`, this.plain(key), 'i32');
  }

  vector(key: string): Vec3 {
    const parts = this.values[key] as VectorFeed;
    const part = (i: number): Expr => this.frameFed(`${this.scope}.${key}.${'xyz'[i]!}`, parts[i]!);
    return new Vec3(part(0), part(1), part(2));
  }

  /** Linear light. */
  colour(key: string): Vec3 {
    const name = `${this.scope}.${key}`;
    const value = this.values[key] as ColourFeed;
    if (isPlaceColour(value)) return this.placeColour();
    if (isLayers(value)) return layeredColour(this, name, value);
    if (!isGradient(value)) return this.builder.vector(name, linearRgb(value));
    return this.ramp(name, value.stops, this.gradientPlace(name, key, value));
  }

  /** Linear light of the place where the particle was born. */
  placeColour(): Vec3 {
    if (this.particle?.placeColour) return this.particle.placeColour;
    const part = (axis: 'x' | 'y' | 'z'): Expr =>
      this.keep(`keep.colour.${axis}`, ({ colour }) => colour[axis]);
    return new Vec3(part('x'), part('y'), part('z'));
  }

  /** A gradient at a place, 0 to 1, in linear light. */
  ramp(name: string, stops: GradientFeed['stops'], at: Expr): Vec3 {
    const colours = gradientTable(stops);
    const sample = (channel: number): Expr => {
      const samples = (x: number): number => colours[Math.round(x * (TABLE - 1))]![channel]!;
      return this.builder.table(`${name}.${'rgb'[channel]!}`, samples, at);
    };
    return new Vec3(sample(0), sample(1), sample(2));
  }

  private gradientPlace(name: string, key: string, value: GradientFeed): Expr {
    const { by, evaluate, signal, text } = value;
    const start = this.graph.float(0);
    if (by === 'random') return this.random(key, evaluate === 'live');
    const feed = { from: 0, to: 1, ...(evaluate ? { evaluate } : {}) };
    if (by === 'signal' && signal !== undefined) {
      return this.base(`${name}.by`, key, { feed: 'signal', signal, ...feed });
    }
    if (by === 'formula' && text !== undefined) {
      return this.base(`${name}.by`, key, { feed: 'formula', text, ...feed });
    }
    return evaluate === 'birth' ? start : (this.particle?.life ?? start);
  }

  /** Uniform in [0, 1), the same for the particle's whole life unless `live`. */
  random(purpose: string, live = false): Expr {
    const name = `${this.scope}.${purpose}`;
    const key = this.builder.uniform(`${name}.key`, randomKey(name, this.builder.seed), 'i32');
    const { id } = this.particle!;
    return random(live ? id.xor(this.builder.frameKey()) : id, key);
  }

  /** A number that names this part's own random fields, i32. */
  seed(purpose: string): Expr {
    const name = `${this.scope}.${purpose}`;
    return this.builder.uniform(`${name}.seed`, randomKey(name, this.builder.seed), 'i32');
  }

  /** A number of the host's for this part, given again at every frame: `value(time in seconds)`. */
  changing(purpose: string, value: (time: number) => number): Expr {
    return this.builder.uniform(`${this.scope}.${purpose}`, (frame) => value(frame.time));
  }

  private spread(name: string, { from, to, distribution, evaluate }: SpreadFeed): Expr {
    const a = this.builder.uniform(`${name}.from`, from);
    const b = this.builder.uniform(`${name}.to`, to);
    const key = name.slice(this.scope.length + 1);
    const live = evaluate === 'live';
    const t = this.random(key, live);
    if (distribution !== 'normal') return mix(a, b, t);
    // Box and Muller 1958; three standard deviations reach the ends.
    const angle = this.random(`${key}.angle`, live).mul(2 * Math.PI);
    const radius = log(this.graph.float(1).sub(t)).mul(-2).sqrt();
    return mix(a, b, radius.mul(cos(angle)).div(6).add(0.5).clamp(0, 1));
  }

  private overLife(name: string, over: Shape): Expr {
    const life = this.particle?.life ?? this.graph.float(0);
    return this.builder.table(`${name}.over`, (x) => shapeAt(over, x), life);
  }

  /** A unit vector of even spread over the sphere. */
  randomDirection(purpose: string, live = false): Vec3 {
    const z = this.random(`${purpose}.z`, live).mul(2).sub(1);
    const angle = this.random(`${purpose}.angle`, live).mul(2 * Math.PI);
    const r = this.graph.float(1).sub(z.mul(z)).max(0).sqrt();
    return new Vec3(r.mul(cos(angle)), r.mul(sin(angle)), z);
  }
}
