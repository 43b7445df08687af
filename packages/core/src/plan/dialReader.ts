import {
  cos,
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
import { linearRgb } from '../feeds/colour';
import {
  isFixed,
  isGradient,
  isSpread,
  type ColourFeed,
  type NumberFeed,
  type Vector,
} from '../feeds/feeds';
import { gradientAt } from '../feeds/gradient';
import { shapeAt, type Shape } from '../feeds/shape';
import type { KernelBuilder } from './kernelBuilder';

/** Samples in the table of a shape or gradient; read with straight lines between them. */
export const TABLE = 256;

/** What a particle brings to its feeds; pixels and frames have none. */
export interface ParticleInputs {
  id: Expr;
  /** Part of life lived, 0 to 1; null at birth. */
  life: Expr | null;
}

/**
 * Reads the dials of one part as arithmetic. Values become uniforms and tables, so that turning a
 * dial changes numbers only; the graph changes when the kind of a feed does.
 */
export class DialReader {
  constructor(
    private readonly builder: KernelBuilder,
    /** Names the part in uniforms and random purposes. */
    private readonly scope: string,
    private readonly specs: Dials,
    private readonly values: DialValues,
    private readonly particle: ParticleInputs | null = null,
  ) {}

  get graph(): Graph {
    return this.builder.graph;
  }

  choice(key: string): string {
    return this.values[key] as string;
  }

  /** The plain number of a dial that does not vary, on the host. */
  plain(key: string): number {
    return this.values[key] as number;
  }

  number(key: string): Expr {
    const name = `${this.scope}.${key}`;
    const value = this.values[key] as NumberFeed;
    if (this.specs[key]?.type !== 'number') throw new Error(`plan: '${name}' is no number dial`);
    if (typeof value === 'number') return this.builder.uniform(name, value);
    const base = isSpread(value)
      ? this.spread(
          name,
          value.from,
          value.to,
          value.distribution === 'normal',
          value.evaluate === 'live',
        )
      : this.builder.uniform(name, value.value);
    const over = isFixed(value) || isSpread(value) ? value.over : undefined;
    return over ? base.mul(this.overLife(name, over)) : base;
  }

  /** A whole number that does not vary, i32. */
  whole(key: string): Expr {
    return this.builder.uniform(`${this.scope}.${key}`, this.plain(key), 'i32');
  }

  /** The particle's place among `places` in order of birth, as a part of the whole: 0 to below 1. */
  turnOf(places: Expr): Expr {
    const order = this.particle!.id.toFloat();
    const turns = order.add(0.5).div(places);
    return turns.sub(turns.floor()).sub(this.graph.float(0.5).div(places));
  }

  vector(key: string): Vec3 {
    const [x, y, z] = this.values[key] as Vector;
    return this.builder.vector(`${this.scope}.${key}`, [x, y, z]);
  }

  /** Linear light. */
  colour(key: string): Vec3 {
    const name = `${this.scope}.${key}`;
    const value = this.values[key] as ColourFeed;
    if (!isGradient(value)) return this.builder.vector(name, linearRgb(value));
    const sample = (channel: number): Expr => {
      const samples = (at: number): number => gradientAt(value.stops, at)[channel]!;
      return this.builder.table(`${name}.${'rgb'[channel]!}`, samples, at);
    };
    const random = (): Expr => this.random(key, value.evaluate === 'live');
    const start = this.graph.float(0);
    const life = value.evaluate === 'birth' ? start : (this.particle?.life ?? start);
    const at = value.by === 'random' ? random() : life;
    return new Vec3(sample(0), sample(1), sample(2));
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

  private spread(name: string, from: number, to: number, normal: boolean, live: boolean): Expr {
    const a = this.builder.uniform(`${name}.from`, from);
    const b = this.builder.uniform(`${name}.to`, to);
    const key = name.slice(this.scope.length + 1);
    const t = this.random(key, live);
    if (!normal) return mix(a, b, t);
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
  randomDirection(purpose: string): Vec3 {
    const z = this.random(`${purpose}.z`).mul(2).sub(1);
    const angle = this.random(`${purpose}.angle`).mul(2 * Math.PI);
    const r = this.graph.float(1).sub(z.mul(z)).max(0).sqrt();
    return new Vec3(r.mul(cos(angle)), r.mul(sin(angle)), z);
  }
}
