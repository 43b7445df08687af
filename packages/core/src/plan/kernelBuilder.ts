import { Graph, Vec3, type Expr } from '@vast-swarm/kernel';
import { TABLE, type BirthScope } from './dialReader';
import type { CameraPose } from './cameraAt';
import type { Lamps } from './lamps';
import type { Scene } from './scene';

/** What changes from frame to frame, for uniforms. */
export interface FrameInputs {
  /** Frame number; negative in the pre-roll. */
  frame: number;
  /** Seconds at the start of the step to this frame, or of the frame itself when drawing. */
  time: number;
  /** Size of the drawn frame in pixels. */
  width: number;
  height: number;
  /** Particles born before the end of this frame: ids run below it. */
  born: number;
  /** The camera now; only while drawing. */
  camera?: CameraPose;
  /** The lights as the camera sees them now; only while drawing. */
  lamps?: Lamps;
  /** Seconds before the state that are drawn, while the shutter is open. */
  before?: number;
}

export type UniformSource = number | ((frame: FrameInputs) => number);

/** A kernel of the plan: its graph, and where its uniforms come from. */
export interface PlanKernel {
  readonly graph: Graph;
  readonly uniforms: Record<string, UniformSource>;
}

/** What the kernels of one swarm share beside the state. */
export class SwarmData {
  /** Shape and gradient samples, in one buffer. */
  readonly samples: number[] = [];
  /** Larger things by buffer name, as a mesh's places; the same array as long as it is the same. */
  readonly blocks = new Map<string, Float32Array>();
  /** What particles keep from their birth, by the name of its state, and how it is found then. */
  readonly kept = new Map<string, (birth: BirthScope) => Expr>();
  private readonly offsets = new Map<string, number>();

  /** @param carried whether particles are moved by what is not in their velocity, see seen.ts */
  constructor(readonly carried = false) {}

  table(name: string, sample: (at: number) => number): number {
    const known = this.offsets.get(name);
    if (known !== undefined) return known;
    const offset = this.samples.length;
    for (let i = 0; i < TABLE; i++) this.samples.push(sample(i / (TABLE - 1)));
    this.offsets.set(name, offset);
    return offset;
  }
}

/** Gathers a graph with the uniforms and tables that its parts ask for. */
export class KernelBuilder implements PlanKernel {
  readonly graph = new Graph();
  readonly uniforms: Record<string, UniformSource> = {};
  /** The swarm whose particles this one is born from: how many slots it has in use. */
  parent: { slots: UniformSource } | null = null;

  constructor(
    readonly scene: Scene,
    readonly data = new SwarmData(),
  ) {}

  get seed(): number {
    return this.scene.seed;
  }

  uniform(name: string, source: UniformSource, type: 'f32' | 'i32' = 'f32'): Expr {
    this.uniforms[name] = source;
    return this.graph.uniform(name, type);
  }

  vector(name: string, value: readonly [UniformSource, UniformSource, UniformSource]): Vec3 {
    const part = (i: number): Expr => this.uniform(`${name}.${'xyz'[i]!}`, value[i]!);
    return new Vec3(part(0), part(1), part(2));
  }

  /** Reads a table at `at` (0 to 1, clamped), straight between its samples. */
  table(name: string, sample: (at: number) => number, at: Expr): Expr {
    const offset = this.uniform(`${name}.table`, this.data.table(name, sample), 'i32');
    const place = at.clamp(0, 1).mul(TABLE - 1);
    const low = place.floor().min(TABLE - 2);
    const index = low.toInt().add(offset);
    const a = this.graph.load('tables', index);
    const b = this.graph.load('tables', index.add(1));
    return a.add(b.sub(a).mul(place.sub(low)));
  }

  /** Reads a block of data that belongs to a thing of the stock. */
  block(name: string, values: Float32Array, index: Expr, type: 'f32' | 'i32' = 'f32'): Expr {
    this.data.blocks.set(name, values);
    return this.graph.load(name, index, type);
  }

  /** A number that differs from frame to frame. */
  frameKey(): Expr {
    return this.uniform('frameKey', (f) => Math.imul(f.frame + 0x10000, 0x9e3779b1), 'i32');
  }
}
