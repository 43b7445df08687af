import { DRAWN, GRID_BUFFERS, STATE, type SwarmPlan } from '@vast-swarm/core';

const STORAGE = (): number =>
  GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_SRC | GPUBufferUsage.COPY_DST;

type Layout = [name: string, words: number][];

/** What stands in a swarm's memory, in order; the state comes first. */
function layoutOf(swarm: SwarmPlan, parentCapacity: number): Layout {
  const { capacity, state, copies, grid, tables, blocks } = swarm;
  const drawn = capacity * copies.length;
  return [
    ...state.map((name): [string, number] => [name, capacity]),
    ...DRAWN.map((name): [string, number] => [name, drawn]),
    ...(swarm.parent === null ? [] : STATE).map((name): [string, number] => [
      `parent.${name}`,
      parentCapacity,
    ]),
    ...(grid ? Object.entries(GRID_BUFFERS(capacity, grid.cells)) : []),
    ['tables', Math.max(4, tables.length)],
    ...[...blocks].map(([name, values]): [string, number] => [name, Math.max(4, values.length)]),
  ];
}

/**
 * One swarm's buffers in one storage buffer: state, what is drawn, a copy of the state of the swarm
 * it is born from, grid, tables, data. Offsets are in words.
 */
export class SwarmMemory {
  readonly buffer: GPUBuffer;
  readonly capacity: number;
  readonly state: readonly string[];
  private readonly places = new Map<string, number>();
  private readonly written = new Map<string, Float32Array>();
  private readonly layout: string;

  constructor(
    readonly device: GPUDevice,
    swarm: SwarmPlan,
    readonly parentCapacity: number,
  ) {
    this.capacity = swarm.capacity;
    this.state = swarm.state;
    const layout = layoutOf(swarm, parentCapacity);
    this.layout = JSON.stringify(layout);
    let words = 0;
    for (const [name, size] of layout) {
      this.places.set(name, words);
      words += size;
    }
    this.buffer = device.createBuffer({ size: 4 * words, usage: STORAGE() });
  }

  /** Whether a plan of the swarm can go on in this memory. */
  fits(swarm: SwarmPlan, parentCapacity: number): boolean {
    return JSON.stringify(layoutOf(swarm, parentCapacity)) === this.layout;
  }

  address = (name: string): number => {
    const at = this.places.get(name);
    if (at === undefined) throw new Error(`gpu: there is no buffer '${name}'`);
    return at;
  };

  /** Brings over tables, and data that is not there yet. */
  write(plan: SwarmPlan): void {
    this.put('tables', plan.tables);
    for (const [name, values] of plan.blocks) {
      if (this.written.get(name) === values) continue;
      this.put(name, values);
      this.written.set(name, values);
    }
  }

  put(name: string, values: Float32Array): void {
    if (values.length === 0) return;
    const at = 4 * this.address(name);
    this.device.queue.writeBuffer(this.buffer, at, values as Float32Array<ArrayBuffer>);
  }

  /** After the memory was cleared. */
  forget(): void {
    this.written.clear();
  }

  /** Bytes of the state, which stands first. */
  get stateBytes(): number {
    return 4 * this.state.length * this.capacity;
  }
}
