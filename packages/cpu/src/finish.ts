import { knowsPast, type FinishPlan, type FinishStep } from '@vast-swarm/core/plan';
import { PLANES, type FrameInputs } from '@vast-swarm/core/kinds';
import type { Kernels } from './kernels';
import type { Planes, Rasteriser } from './rasteriser';

/** Output of a treatment in two frames, one behind the other. */
interface Memory {
  /** Frame that `now` is of. */
  frame: number;
  now: Planes;
  before: Planes;
}

/** Copies of memories, for snapshots. */
export type KeptMemory = ReadonlyMap<
  string,
  { frame: number; width: number; height: number; planes: Float32Array[] }
>;

/** Runs the finish: treats the drawn frame step by step, up to its words in `out`. */
export class Finish {
  /** The planes that the last frame ended in. */
  last: Planes | null = null;
  private readonly memories = new Map<string, Memory>();

  constructor(
    private readonly rasteriser: Rasteriser,
    private readonly kernels: Kernels,
  ) {}

  /** @param layers swarms drawn on layers of their own */
  run(
    plan: FinishPlan,
    frame: Planes,
    inputs: FrameInputs,
    layers: ReadonlyMap<string, Planes>,
    tables: number,
  ): void {
    let planes = frame;
    const { width, height } = frame;
    for (const step of plan.steps) {
      switch (step.type) {
        case 'keep':
          this.rasteriser.add(planes, this.rasteriser.planes('was', width, height), 0, 1);
          break;
        case 'bloom':
          this.rasteriser.bloom(planes, step.at(inputs.time));
          break;
        case 'blur':
          this.rasteriser.blur(planes, step.radius(inputs.time));
          break;
        case 'remember':
          this.remember(step.id, planes, inputs.frame);
          break;
        case 'pixels':
          this.kernel(step, planes, planes, 0, inputs, layers, tables);
          break;
        case 'around':
          for (let pass = 0; pass < step.passes; pass++) {
            // Two sets of planes take turns.
            const to = planes === frame ? this.rasteriser.planes('turn', width, height) : frame;
            this.kernel(step, planes, to, pass, inputs, layers, tables);
            planes = to;
          }
      }
    }
    this.last = planes;
  }

  private kernel(
    step: FinishStep & { type: 'pixels' | 'around' },
    from: Planes,
    to: Planes,
    pass: number,
    inputs: FrameInputs,
    layers: ReadonlyMap<string, Planes>,
    tables: number,
  ): void {
    const { rasteriser } = this;
    const { width, height, stride } = from;
    const out = rasteriser.arena.buffer('out', 4 * stride * height);
    const past = step.past === undefined ? null : this.pastOf(step.past, from, inputs.frame);
    const layer = step.layer === undefined ? null : (layers.get(step.layer) ?? this.black(from));
    const sets: Record<string, Planes | null> = { past, layer, to };
    const address = (name: string): number => {
      if (name === 'out') return out;
      if (name === 'tables') return tables;
      if (name.startsWith('medium/')) return rasteriser.arena.address(name);
      if (/^(data|track)\//.test(name)) return rasteriser.arena.address(`finish/${name}`);
      const [set, plane] = name.includes('.') ? name.split('.') : ['', name];
      const planes = set === 'was' ? rasteriser.planes('was', width, height) : sets[set!];
      return (planes ?? from).at[PLANES.indexOf(plane as 'r')]!;
    };
    const size = past ?? from;
    this.kernels.run(step.kernel, 0, stride * height, address, inputs, {
      pass,
      'past.width': size.width,
      'past.height': size.height,
      'past.stride': size.stride,
    });
  }

  private black({ width, height }: Planes): Planes {
    const planes = this.rasteriser.planes('black', width, height);
    this.clear(planes);
    return planes;
  }

  private clear({ at, stride, height }: Planes): void {
    for (const a of at)
      new Float32Array(this.rasteriser.pool.memory.buffer, a, stride * height).fill(0);
  }

  /** Output of the treatment in the frame before; 0 where that was not drawn. */
  private pastOf(id: string, like: Planes, frame: number): Planes {
    const memory = this.memories.get(id);
    if (memory?.frame === frame - 1) return memory.now;
    if (memory?.frame === frame) return memory.before;
    return this.black(like);
  }

  /** Whether the frames before this one have been drawn, so that the finish is as it should be. */
  knows(plan: FinishPlan, frame: number): boolean {
    return knowsPast(plan, frame, (id) => this.memories.get(id)?.frame);
  }

  private remember(id: string, planes: Planes, frame: number): void {
    const { width, height } = planes;
    const memory = this.memories.get(id);
    const name = (side: string): string => `memory.${id}.${side}`;
    const fresh = (side: string): Planes => this.rasteriser.planes(name(side), width, height);
    const same = memory?.now.width === width && memory.now.height === height;
    // Another size is read once as it is, and then left behind.
    if (!memory || !same) {
      const [now, before] = [fresh('a'), fresh('b')];
      if (!memory || memory.frame !== frame - 1) this.clear(before);
      this.rasteriser.add(planes, now, 0, 1);
      this.memories.set(id, { frame, now, before });
      return;
    }
    if (memory.frame !== frame) {
      [memory.now, memory.before] = [memory.before, memory.now];
      if (memory.frame !== frame - 1) this.clear(memory.before);
      memory.frame = frame;
    }
    this.rasteriser.add(planes, memory.now, 0, 1);
  }

  /** Outputs of treatments in the frame before `frame`, to be brought back. */
  save(frame: number): KeptMemory {
    return new Map(
      [...this.memories].flatMap(([id, memory]) => {
        if (memory.frame !== frame && memory.frame !== frame - 1) return [];
        const { width, height, stride, at } = memory.frame === frame ? memory.before : memory.now;
        const view = (a: number): Float32Array =>
          new Float32Array(this.rasteriser.pool.memory.buffer, a, stride * height).slice();
        return [[id, { frame: frame - 1, width, height, planes: at.map(view) }] as const];
      }),
    );
  }

  restore(kept: KeptMemory): void {
    this.forget();
    for (const [id, { frame, width, height, planes }] of kept) {
      const [now, before] = ['a', 'b'].map((s) =>
        this.rasteriser.planes(`memory.${id}.${s}`, width, height),
      );
      const { buffer } = this.rasteriser.pool.memory;
      planes.forEach((values, i) => {
        new Float32Array(buffer, now!.at[i], values.length).set(values);
      });
      this.clear(before!);
      this.memories.set(id, { frame, now: now!, before: before! });
    }
  }

  forget(): void {
    this.memories.clear();
  }
}
