import type { FieldPlan } from '@vast-swarm/core/plan';
import type { FrameInputs, PlanKernel } from '@vast-swarm/core/kinds';
import type { Reader } from './mediumMemory';
import type { SwarmMemory } from './swarmMemory';
import type { Work } from './work';

/** A field's buffers in one storage buffer: what is kept stands first. */
export class FieldMemory {
  readonly buffer: GPUBuffer;
  private readonly names: readonly string[];
  private readonly room: number;

  constructor(
    device: GPUDevice,
    private field: FieldPlan,
  ) {
    this.names = [...field.kept, ...field.left];
    // Kernels run on to a multiple of four cells.
    this.room = Math.ceil(field.cells / 4) * 4;
    const usage = GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_SRC | GPUBufferUsage.COPY_DST;
    this.buffer = device.createBuffer({ size: 4 * this.room * this.names.length, usage });
  }

  /** Takes a plan of the field, where it can go on in this memory. */
  takes(field: FieldPlan): boolean {
    const same =
      field.cells === this.field.cells &&
      JSON.stringify([...field.kept, ...field.left]) === JSON.stringify(this.names);
    if (same) this.field = field;
    return same;
  }

  private readonly address = (name: string): number => this.names.indexOf(name) * this.room;

  /** Copies buffers that are wanted elsewhere to where they are read. */
  lend(work: Work, to: Reader, names: Iterable<string>): void {
    for (const name of names) {
      if (!this.names.includes(name)) continue;
      const [from, at] = [4 * this.address(name), 4 * to.address(name)];
      work.copy(this.buffer, from, to.buffer, at, 4 * this.field.cells);
    }
  }

  /** Gathers the swarm's particles into the cells that they are sorted by. */
  gather(work: Work, memory: SwarmMemory, kernel: PlanKernel, inputs: FrameInputs): void {
    const { left, cells } = this.field;
    this.lend(work, memory, left);
    work.kernel(kernel, memory.buffer, 0, cells, memory.address, inputs);
    for (const name of left) {
      const [from, to] = [4 * memory.address(name), 4 * this.address(name)];
      work.copy(memory.buffer, from, this.buffer, to, 4 * cells);
    }
  }

  step(work: Work, inputs: FrameInputs): void {
    const { step, cells } = this.field;
    work.kernel(step, this.buffer, 0, cells, this.address, inputs);
  }

  /** Bytes of what is kept. */
  get keptBytes(): number {
    return 4 * this.room * this.field.kept.length;
  }
}
