import { paramBlock } from '@vast-swarm/core/plan';
import type { FrameInputs, GivenValues, PlanKernel } from '@vast-swarm/core/kinds';
import { toWasm } from '@vast-swarm/kernel';
import type { Arena } from './arena';
import { MAX_PAGES } from './generated/rasteriser';
import type { Pool } from './pool';

/** Compiles the kernels of plans, and runs them with their parameters. */
export class Kernels {
  private readonly modules = new WeakMap<PlanKernel, number>();

  constructor(
    private readonly pool: Pool,
    private readonly arena: Arena,
  ) {}

  private module(kernel: PlanKernel): number {
    let id = this.modules.get(kernel);
    if (id === undefined) {
      // Turning a dial changes parameters and not the code: then the module is there already.
      id = this.pool.module(kernel.graph.signature(), () => toWasm(kernel.graph, MAX_PAGES));
      this.modules.set(kernel, id);
    }
    return id;
  }

  /** Runs lanes `begin` to `end`, widened to multiples of 4. */
  run(
    kernel: PlanKernel,
    begin: number,
    end: number,
    address: (buffer: string) => number,
    inputs: FrameInputs,
    extra: GivenValues = {},
  ): void {
    const module = this.module(kernel);
    const block = paramBlock(kernel, address, inputs, extra);
    const params = this.arena.buffer('params', block.byteLength);
    new Int32Array(this.pool.memory.buffer, params, block.length).set(block);
    this.pool.kernel(module, begin & ~3, (end + 3) & ~3, params);
  }
}
