import { DRAWN, STATE, type SwarmPlan } from '@vast-swarm/core';

const STORAGE = (): number =>
  GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_SRC | GPUBufferUsage.COPY_DST;

/**
 * One swarm's buffers in one storage buffer: state, what is drawn, tables. Offsets are in words.
 */
export class SwarmMemory {
  readonly buffer: GPUBuffer;
  private readonly tablesAt: number;

  constructor(
    readonly device: GPUDevice,
    readonly capacity: number,
    readonly tables: number,
  ) {
    this.tablesAt = (STATE.length + DRAWN.length) * capacity;
    const size = 4 * (this.tablesAt + Math.max(4, tables));
    this.buffer = device.createBuffer({ size, usage: STORAGE() });
  }

  address = (name: string): number => {
    if (name === 'tables') return this.tablesAt;
    const at = ([...STATE, ...DRAWN] as string[]).indexOf(name);
    if (at < 0) throw new Error(`gpu: there is no buffer '${name}'`);
    return at * this.capacity;
  };

  writeTables(plan: SwarmPlan): void {
    if (plan.tables.length === 0) return;
    this.device.queue.writeBuffer(
      this.buffer,
      4 * this.tablesAt,
      plan.tables as Float32Array<ArrayBuffer>,
    );
  }

  /** Bytes of the state, which stands first. */
  get stateBytes(): number {
    return 4 * STATE.length * this.capacity;
  }
}
