import { cos, random, randomKey, sin, Vec3, type Expr, type Graph } from '@vast-swarm/kernel';
import type { BirthScope, DialSource, KernelBuilder } from './builder';
import { FRAME } from './names';
import type { Chance, ParticleInputs, StateName } from './particle';
import type { BlockTrack } from './track';

/** In what respect repeats differ by what is random for a purpose: a dial's key, or a part of it. */
function chanceOf(purpose: string): Chance | null {
  return CHANCE_OF[purpose.split('.')[0]!] ?? null;
}

const CHANCE_OF: Readonly<Partial<Record<string, Chance>>> = {
  pick: 'picture',
  colour: 'colour',
  light: 'colour',
  gain: 'colour',
  turn: 'turn',
  spin: 'turn',
  way: 'turn',
  axis: 'turn',
  opacity: 'opacity',
  cover: 'opacity',
};

/**
 * All that a kind's `build` has of its part besides its dials: random numbers, numbers and lists of its own,
 * time, and what the particle is known by.
 */
export class PartReader {
  constructor(
    readonly builder: KernelBuilder,
    readonly source: DialSource,
    readonly particle: ParticleInputs | null = null,
  ) {}

  get graph(): Graph {
    return this.builder.graph;
  }

  /** Frames a second. */
  get rate(): number {
    return this.builder.scene.rate;
  }

  /** Seconds after which the piece comes round again; null where it does not. */
  get period(): number | null {
    return this.builder.scene.period;
  }

  private phase(frame: number): number {
    return this.builder.scene.phase(frame);
  }

  /** Seconds of the piece: of the moment that is worked out, see FrameInputs. */
  time(): Expr {
    return this.builder.uniform(FRAME.own('time'), (f) => f.time);
  }

  /** The same in a birth: of the moment of each. */
  ownTime(): Expr {
    const born = this.particle?.born;
    if (!born) return this.time();
    const start = this.builder.uniform(FRAME.own('start'), (f) => this.phase(f.frame) / this.rate);
    return start.add(born.mul(1 / this.rate));
  }

  /** A state that particles keep from their birth. */
  keep(name: StateName, find: (birth: BirthScope) => Expr): Expr {
    this.builder.data.kept.set(name, find);
    return this.particle!.kept!(name);
  }

  /** Three states, as of a place, that particles keep from their birth. */
  keepVec(name: 'home' | 'colour' | 'drift', find: (birth: BirthScope) => Vec3): Vec3 {
    const part = (axis: 'x' | 'y' | 'z'): Expr =>
      this.keep(`${name}.${axis}`, (birth) => find(birth)[axis]);
    return new Vec3(part('x'), part('y'), part('z'));
  }

  /** A number of the kind's own that does not change while it runs. */
  constant(purpose: string, value: number, type: 'f32' | 'i32' = 'f32'): Expr {
    return this.builder.uniform(this.source.owner.own(purpose), value, type);
  }

  /** A number of the kind's own, given again at every frame: `value(time in seconds, frame)`. */
  changing(purpose: string, value: (time: number, frame: number) => number): Expr {
    const name = this.source.owner.own(purpose);
    return this.builder.uniform(name, (f) => value(f.time, this.phase(f.frame)));
  }

  /** A curve of the kind's own at a place, 0 to 1: straight between 256 samples of it. */
  curve(purpose: string, sample: (at: number) => number, at: Expr): Expr {
    return this.builder.table(this.source.owner.own(purpose), sample, at);
  }

  /** Reads a list of numbers: the same array each time, as long as it is the same data. */
  block(values: Float32Array, index: Expr, type: 'f32' | 'i32' = 'f32'): Expr {
    return this.builder.block(values, index, type);
  }

  /** Reads a track as it is in the frame that is stepped to. */
  track(track: BlockTrack, index: Expr): Expr {
    return this.builder.track(track, index);
  }

  /** The key of a random purpose, i32. */
  private key(purpose: string, use: string): Expr {
    const value = randomKey(`${this.source.label}.${purpose}`, this.builder.seed);
    return this.builder.uniform(this.source.owner.own(`${use} ${purpose}`), value, 'i32');
  }

  /** Uniform in [0, 1), the same for the particle's whole life unless `live`; in each repeat its own, where these differ. */
  random(purpose: string, live = false): Expr {
    const { id, repeat } = this.particle!;
    const own = repeat?.chance(chanceOf(purpose));
    const key = this.key(purpose, 'random');
    return random(live ? id.xor(this.builder.frameKey()) : id, own ? key.xor(own) : key);
  }

  /** A number that names this part's own random fields, i32. */
  seed(purpose: string): Expr {
    return this.key(purpose, 'seed');
  }

  /** A unit vector of even spread over the sphere. */
  randomDirection(purpose: string, live = false): Vec3 {
    const z = this.random(`${purpose}.z`, live).mul(2).sub(1);
    const angle = this.random(`${purpose}.angle`, live).mul(2 * Math.PI);
    const r = this.graph.float(1).sub(z.mul(z)).max(0).sqrt();
    return new Vec3(r.mul(cos(angle)), r.mul(sin(angle)), z);
  }
}
