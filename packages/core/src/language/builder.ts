import { Graph, Vec3, type Expr } from '@vast-swarm/kernel';
import type { NumberFeed } from '../feeds/feeds';
import { serialOf } from '../stock/memo';
import type { Dials, DialValues } from './dials';
import type { PlanKernel, UniformSource } from './frame';
import { FRAME, Owner, partOf, type Name } from './names';
import type { BirthPlace, StateName } from './particle';
import { trackBuffer, type BlockTrack } from './track';
import type { World } from './world';

/** Samples in the table of a shape or gradient; read with straight lines between them. */
export const TABLE = 256;

/** Inputs and feeds at a particle's birth. */
export interface BirthScope extends BirthPlace {
  /** Value of a dial, or of a part of one, at the birth. */
  fed: (part: DialSource, name: Name, key: string, value: Exclude<NumberFeed, number>) => Expr;
  /** World frame. */
  velocity: Vec3;
  /** Seconds; 0 or less, before the step in which it is born. */
  age: Expr;
}

/** How a part is called: its owner in uniforms, and its label in the purposes of random numbers. */
export interface PartNames {
  owner: Owner;
  /** Part of what random numbers are hashed from: it never changes, or pieces would. */
  label: string;
}

/** The dials of one part. */
export interface DialSource extends PartNames {
  specs: Dials;
  values: DialValues;
}

/** How slots of a piece that comes round are used: by `count` rounds in turn, each of `ids` ids. */
export interface Turns {
  ids: number;
  count: number;
}

/** Data that the kernels of one swarm, or of the finish, share beside the state. */
export class KernelData {
  /** Shape and gradient samples, in one buffer. */
  readonly samples: number[] = [];
  /** Larger things by buffer name, as a mesh's places; the same array as long as it is the same. */
  readonly blocks = new Map<string, Float32Array>();
  /** State that particles keep from their birth, by its name, and how it is found then. */
  readonly kept = new Map<StateName, (birth: BirthScope) => Expr>();
  /** Tracks that kernels read, by the name of their buffer. */
  readonly tracks = new Map<string, BlockTrack>();
  /** Numbers in the buffers of fields that kernels read, by the name of the buffer. */
  readonly fields = new Map<string, number>();
  private readonly offsets = new Map<Name, number>();

  /**
   * @param carried whether particles are moved by what is not in their velocity
   * @param turns of a piece that comes round: ids of one round, and rounds that have slots beside each other
   */
  constructor(
    readonly carried = false,
    readonly turns: Turns | null = null,
  ) {}

  table(name: Name, sample: (at: number) => number): number {
    const known = this.offsets.get(name);
    if (known !== undefined) return known;
    const offset = this.samples.length;
    for (let i = 0; i < TABLE; i++) this.samples.push(sample(i / (TABLE - 1)));
    this.offsets.set(name, offset);
    return offset;
  }

  /** The name of the buffer that holds an array: its own, whoever reads it. */
  block(values: Float32Array): string {
    const name = `data/${String(serialOf(values))}`;
    this.blocks.set(name, values);
    return name;
  }
}

/** Gathers a graph with the uniforms and tables that its parts ask for. */
export class KernelBuilder<W extends World = World> implements PlanKernel {
  readonly graph = new Graph();
  readonly uniforms: Record<string, UniformSource> = {};
  /**
   * The swarm whose particles this one is born from: how many slots it has in use, and by how many
   * they are turned where the rounds of a loop have slots beside each other.
   */
  parent: { slots: UniformSource; turn: UniformSource | null } | null = null;
  /** Where a place in the world is seen, 0 to 1 from the left and the top; null where nobody looks. */
  onScreen: ((place: Vec3) => readonly [Expr, Expr]) | null = null;

  constructor(
    readonly scene: W,
    readonly data = new KernelData(),
  ) {}

  get seed(): number {
    return this.scene.seed;
  }

  uniform(name: Name, source: UniformSource, type: 'f32' | 'i32' = 'f32'): Expr {
    this.uniforms[name] = source;
    return this.graph.uniform(name, type);
  }

  vector(name: Name, value: readonly [UniformSource, UniformSource, UniformSource]): Vec3 {
    const part = (i: number): Expr => this.uniform(partOf(name, 'xyz'[i]!), value[i]!);
    return new Vec3(part(0), part(1), part(2));
  }

  /** A number that belongs to a thing, as the step of a mesh's distance field. */
  constantOf(thing: object, key: string, value: number, type: 'f32' | 'i32' = 'f32'): Expr {
    return this.uniform(new Owner('stock', String(serialOf(thing))).own(key), value, type);
  }

  /** Reads a table at `at` (0 to 1, clamped), straight between its samples. */
  table(name: Name, sample: (at: number) => number, at: Expr): Expr {
    const offset = this.uniform(partOf(name, 'table'), this.data.table(name, sample), 'i32');
    const place = at.clamp(0, 1).mul(TABLE - 1);
    const low = place.floor().min(TABLE - 2);
    const index = low.toInt().add(offset);
    const a = this.graph.load('tables', index);
    const b = this.graph.load('tables', index.add(1));
    return a.add(b.sub(a).mul(place.sub(low)));
  }

  /** Reads a block of data: the same array each time, as long as it is the same data. */
  block(values: Float32Array, index: Expr, type: 'f32' | 'i32' = 'f32'): Expr {
    return this.graph.load(this.data.block(values), index, type);
  }

  /** Reads a track as it is in the frame that is stepped to, or drawn. */
  track(track: BlockTrack, index: Expr, type: 'f32' | 'i32' = 'f32'): Expr {
    this.data.tracks.set(trackBuffer(track), track);
    return this.graph.load(trackBuffer(track), index, type);
  }

  /** A number that differs from frame to frame. */
  frameKey(): Expr {
    const key = FRAME.own('key');
    return this.uniform(
      key,
      (f) => Math.imul(this.scene.phase(f.frame) + 0x10000, 0x9e3779b1),
      'i32',
    );
  }
}
