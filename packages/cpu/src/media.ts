import {
  GIVEN_TO_MEDIA,
  LEFT_IN_MEDIA,
  Words,
  type MediumPass,
  type MediumPlan,
  type Plan,
  type SwarmPlan,
} from '@vast-swarm/core/plan';
import { mediumBuffer, type FrameInputs } from '@vast-swarm/core/kinds';
import type { Kernels } from './kernels';
import { bufferOf, type Memories } from './memories';
import type { Rasteriser } from './rasteriser';
import { WORDS } from './words';

/** Lines of a medium that one thread adds up in one go. */
const BAND = 48;

/** Media in the shared memory: their planes, what swarms leave in them, and the passes of their steps. */
export class Media {
  private plans: readonly MediumPlan[] = [];
  /** Plans whose passes of one time have been run on the memory as it is. */
  private readonly known = new Set<MediumPlan>();
  /** Numbers in each plane. */
  private readonly planes = new Map<string, number>();

  /** Milliseconds that media have taken since they were asked last. */
  private time = 0;

  constructor(
    private readonly memories: Memories,
    private readonly kernels: Kernels,
    private readonly rasteriser: Rasteriser,
  ) {}

  /** Readies memory: planes of the same size go on as they are, others begin empty. */
  setPlan({ media: plans, swarms, mediumLayers }: Plan): void {
    const { arena } = this.memories;
    const wanted = new Map(plans.flatMap((p) => [...p.buffers]));
    for (const name of this.planes.keys()) {
      if (this.planes.get(name) === wanted.get(name)) continue;
      arena.release(name);
      this.planes.delete(name);
    }
    for (const [name, words] of wanted) {
      if (this.planes.has(name)) continue;
      this.memories.floats(arena.buffer(name, 4 * words + 16), words).fill(0);
      this.planes.set(name, words);
    }
    for (const { id, tables, blocks } of plans) {
      const at = arena.buffer(mediumBuffer(id, 'tables'), Math.max(16, tables.byteLength));
      this.memories.floats(at, tables.length).set(tables);
      for (const [name, values] of blocks) this.memories.keepBlock(name, values);
    }
    for (const { id, capacity, gives } of swarms) {
      if (gives.size === 0) continue;
      for (const name of GIVEN_TO_MEDIA) arena.buffer(bufferOf(id, `give.${name}`), 4 * capacity);
    }
    const { tables } = mediumLayers;
    const at = arena.buffer('mediumLayers/tables', Math.max(16, tables.byteLength));
    this.memories.floats(at, tables.length).set(tables);
    this.plans = plans;
    for (const plan of this.known) if (!plans.includes(plan)) this.known.delete(plan);
  }

  isNew(plan: MediumPlan): boolean {
    if (this.known.has(plan)) return false;
    this.known.add(plan);
    return true;
  }

  /** Values of a plane: a live view. */
  plane(name: string): Float32Array {
    return this.memories.floats(this.memories.arena.address(name), this.planes.get(name)!);
  }

  leave(
    { id, space, leaving }: MediumPlan,
    swarm: SwarmPlan,
    slots: number,
    fresh: boolean,
    inputs: FrameInputs,
  ): void {
    const started = performance.now();
    const address = this.memories.address(swarm);
    this.kernels.run(swarm.gives.get(id)!, 0, slots, address, inputs);
    const { columns, lines, stride, edges } = space;
    const { cells, gain } = leaving.radius(inputs.time);
    const left = LEFT_IN_MEDIA.map((name) => mediumBuffer(id, `left.${name}`));
    const { words } = new Words(WORDS.medium)
      .whole({ count: slots, columns, lines, stride, band: BAND })
      .whole({ wraps: edges === 'wrap' ? 1 : 0, fresh: fresh ? 1 : 0 })
      .whole({ from: GIVEN_TO_MEDIA.map((name) => address(`give.${name}`)) })
      .whole({ to: left.map((name) => this.memories.arena.address(name)) })
      .real({ radius: cells, gain });
    const args = this.rasteriser.args(words);
    this.rasteriser.pool.raster('leaveInMedium', Math.ceil(lines / BAND), args);
    this.time += performance.now() - started;
  }

  leaveNothing({ id }: MediumPlan): void {
    for (const name of LEFT_IN_MEDIA) this.plane(mediumBuffer(id, `left.${name}`)).fill(0);
  }

  runPass({ kernel, begin, end, at, given }: MediumPass, inputs: FrameInputs): void {
    const { arena } = this.memories;
    const address = (name: string): number => arena.address(at.get(name)!);
    const started = performance.now();
    this.kernels.run(kernel, begin, end, address, inputs, given);
    this.time += performance.now() - started;
  }

  takeTime(): number {
    const { time } = this;
    this.time = 0;
    return time;
  }

  clear(): void {
    for (const name of this.planes.keys()) this.plane(name).fill(0);
    this.known.clear();
  }

  /** Copies of what media keep, by the name of the buffer. */
  copy(): Map<string, Float32Array> {
    const names = this.plans.flatMap((p) => p.kept);
    return new Map(names.map((name) => [name, this.plane(name).slice()]));
  }

  restore(states: ReadonlyMap<string, Float32Array>): void {
    for (const name of this.plans.flatMap((p) => p.kept)) this.plane(name).set(states.get(name)!);
  }
}
