import {
  DRAWN,
  PLANES,
  READINGS,
  remap,
  slotRanges,
  STATE,
  timeOf,
  type Engine,
  type FrameInputs,
  type Plan,
  type Snapshot,
  type SwarmPlan,
} from '@vast-swarm/core';
import { Arena } from './arena';
import { Kernels } from './kernels';
import { Pool } from './pool';
import { Rasteriser, type Planes } from './rasteriser';

/** What one frame cost, in milliseconds by stage. */
export type StageTimes = Record<'motion' | 'look' | 'draw' | 'finish', number>;

export interface Frame {
  width: number;
  height: number;
  /** sRGB with full opacity, rows from the top. Its own memory. */
  pixels: Uint8ClampedArray<ArrayBuffer>;
}

export interface CpuOptions {
  threads: number;
  /** Milliseconds without an answer after which a thread counts as dead. */
  patience?: number;
}

class CpuSnapshot implements Snapshot {
  readonly bytes: number;

  constructor(
    readonly frame: number,
    readonly states: ReadonlyMap<string, { capacity: number; arrays: Float32Array[] }>,
  ) {
    this.bytes = [...states.values()].reduce((sum, s) => sum + s.capacity * STATE.length * 4, 0);
  }

  release(): void {
    // Ordinary memory: nothing to do.
  }
}

/** Runs plans on the processor: WebAssembly SIMD on several threads, the same bits everywhere. */
export class CpuEngine implements Engine {
  frame = -1;
  readonly times: StageTimes = { motion: 0, look: 0, draw: 0, finish: 0 };
  private plan: Plan | null = null;
  private readonly capacities = new Map<string, number>();
  private readonly arena: Arena;
  private readonly kernels: Kernels;
  private readonly rasteriser: Rasteriser;

  private constructor(private readonly pool: Pool) {
    this.arena = new Arena(pool.memory);
    this.kernels = new Kernels(pool, this.arena);
    this.rasteriser = new Rasteriser(pool, this.arena);
  }

  static async create({ threads, patience }: CpuOptions): Promise<CpuEngine> {
    return new CpuEngine(await Pool.create(threads, patience));
  }

  /** New threads after a PoolFailure; the state has to be made again from a snapshot or the start. */
  async recover(): Promise<void> {
    await this.pool.restart();
  }

  crashHelper(): void {
    this.pool.crashHelper();
  }

  close(): void {
    this.pool.close();
  }

  get memoryBytes(): number {
    return this.arena.bytes;
  }

  private floats(address: number, length: number): Float32Array {
    return new Float32Array(this.pool.memory.buffer, address, length);
  }

  private address(swarm: { id: string }): (buffer: string) => number {
    return (buffer) => this.arena.address(`${swarm.id}/${buffer}`);
  }

  setPlan(plan: Plan): void {
    const first = this.plan === null;
    this.plan = plan;
    const ids = new Set(plan.swarms.map((s) => s.id));
    for (const id of this.capacities.keys()) if (!ids.has(id)) this.drop(id);
    for (const swarm of plan.swarms) this.prepare(swarm);
    if (first) this.reset();
  }

  private drop(id: string): void {
    this.capacities.delete(id);
    for (const name of this.arena.names()) if (name.startsWith(`${id}/`)) this.arena.release(name);
  }

  /** Buffers for a swarm; a state that is there already moves to its new slots. */
  private prepare(swarm: SwarmPlan): void {
    const { id, capacity } = swarm;
    const old = this.capacities.get(id);
    if (old !== capacity) {
      const born = this.bornAt(swarm, this.frame);
      const moves = old === undefined ? [] : remap(born, old, capacity);
      for (const name of STATE) this.moveState(`${id}/${name}`, old ?? 0, capacity, moves);
      for (const name of DRAWN) this.arena.buffer(`${id}/${name}`, 4 * capacity);
      this.capacities.set(id, capacity);
    }
    const tables = this.arena.buffer(`${id}/tables`, Math.max(4, swarm.tables.byteLength));
    this.floats(tables, swarm.tables.length).set(swarm.tables);
  }

  private moveState(
    name: string,
    old: number,
    capacity: number,
    moves: readonly { from: number; to: number; count: number }[],
  ): void {
    const fresh = this.arena.buffer(`${name}+`, 4 * capacity);
    const to = this.floats(fresh, capacity);
    to.fill(0);
    if (moves.length > 0) {
      const from = this.floats(this.arena.address(name), old);
      for (const m of moves) to.set(from.subarray(m.from, m.from + m.count), m.to);
    }
    this.arena.rename(`${name}+`, name);
  }

  private bornAt(swarm: SwarmPlan, frame: number): number {
    return swarm.births.bornBefore(timeOf(frame + 1, this.plan!.frame.rate));
  }

  reset(): void {
    const plan = this.plan!;
    this.frame = -plan.frame.preroll - 1;
    for (const { id, capacity } of plan.swarms) {
      for (const name of STATE) this.floats(this.arena.address(`${id}/${name}`), capacity).fill(0);
    }
  }

  step(): void {
    const plan = this.plan!;
    const started = performance.now();
    const frame = this.frame + 1;
    const { rate } = plan.frame;
    const [from, to] = [timeOf(frame, rate), timeOf(frame + 1, rate)];
    for (const swarm of plan.swarms) {
      const born = this.bornAt(swarm, frame);
      const inputs: FrameInputs = { frame, time: from, width: 0, height: 0, born };
      const address = this.address(swarm);
      for (const event of swarm.births.between(from, to)) {
        for (const { begin, end, idOffset } of slotRanges(event, swarm.capacity)) {
          this.kernels.run(swarm.birth, begin, end, address, inputs, {
            idOffset,
            first: event.first,
            count: event.count,
            ageFirst: from - event.time,
            ageStep: event.every,
          });
        }
      }
      this.kernels.run(swarm.motion, 0, Math.min(born, swarm.capacity), address, inputs);
    }
    this.frame = frame;
    this.times.motion = performance.now() - started;
  }

  /** Particles alive now, by swarm. */
  alive(): Map<string, number> {
    const counts = this.plan!.swarms.map(({ id, capacity }): [string, number] => {
      const [age, life] = [this.arena.address(`${id}/age`), this.arena.address(`${id}/life`)];
      return [id, this.rasteriser.countAlive(age, life, capacity)];
    });
    return new Map(counts);
  }

  /**
   * Draws the state. Particles and backdrop are drawn at `oversample` times the size and averaged
   * in linear light before the finish.
   */
  draw(width: number, height: number, oversample = 1): Frame {
    const plan = this.plan!;
    const time = timeOf(this.frame + 1, plan.frame.rate);
    const { rasteriser, times } = this;
    const large = rasteriser.planes('large', width * oversample, height * oversample);
    const inputs = { frame: this.frame, time, width: large.width, height: large.height, born: 0 };
    let mark = performance.now();
    const lap = (): number => {
      const before = mark;
      mark = performance.now();
      return mark - before;
    };
    this.pixels(plan.backdrop, large, inputs);
    times.draw = lap();
    times.look = 0;
    for (const swarm of plan.swarms) {
      const born = this.bornAt(swarm, this.frame);
      const count = Math.min(born, swarm.capacity);
      const address = this.address(swarm);
      this.kernels.run(swarm.look, 0, count, address, { ...inputs, born });
      times.look += lap();
      rasteriser.discs(address, count, large, swarm.mode, swarm.edge);
      times.draw += lap();
    }
    let planes = large;
    if (oversample > 1) {
      planes = rasteriser.planes('small', width, height);
      rasteriser.shrink(large, planes, oversample);
    }
    const final = { ...inputs, width, height };
    for (const step of plan.finish) {
      if (step.type === 'bloom') rasteriser.bloom(planes, step);
      else this.pixels(step.kernel, planes, final);
    }
    times.finish = lap();
    return { width, height, pixels: this.output(planes) };
  }

  private pixels(kernel: Plan['backdrop'], planes: Planes, inputs: FrameInputs): void {
    const out = this.arena.buffer('out', 4 * planes.stride * planes.height);
    const address = (name: string): number =>
      name === 'out' ? out : planes.at[PLANES.indexOf(name as 'r')]!;
    this.kernels.run(kernel, 0, planes.stride * planes.height, address, inputs);
  }

  private output({ width, height, stride }: Planes): Uint8ClampedArray<ArrayBuffer> {
    const from = new Int32Array(
      this.pool.memory.buffer,
      this.arena.address('out'),
      stride * height,
    );
    const out = new Int32Array(width * height);
    if (stride === width) out.set(from);
    else {
      for (let y = 0; y < height; y++) {
        out.set(from.subarray(y * stride, y * stride + width), y * width);
      }
    }
    return new Uint8ClampedArray(out.buffer);
  }

  save(): Snapshot {
    const states = this.plan!.swarms.map(({ id, capacity }) => {
      const copy = (n: string): Float32Array => this.state(id, n as 'px').slice();
      return [id, { capacity, arrays: STATE.map(copy) }] as const;
    });
    return new CpuSnapshot(this.frame, new Map(states));
  }

  restore(snapshot: Snapshot): void {
    if (!(snapshot instanceof CpuSnapshot)) throw new Error('cpu: a snapshot of another engine');
    const { frame, states } = snapshot;
    this.frame = frame;
    for (const { id } of this.plan!.swarms) {
      STATE.forEach((name, i) => {
        this.state(id, name).set(states.get(id)!.arrays[i]!);
      });
    }
  }

  /** One quantity of all slots of a swarm: a live view, in metres, m/s or seconds. */
  state(swarm: string, name: (typeof STATE)[number]): Float32Array {
    return this.floats(this.arena.address(`${swarm}/${name}`), this.capacities.get(swarm)!);
  }

  /** What the particles of a swarm look like now, one array of all slots for each of READINGS. */
  readings(id: string): Record<(typeof READINGS)[number], Float32Array> {
    const swarm = this.plan!.swarms.find((s) => s.id === id)!;
    const born = this.bornAt(swarm, this.frame);
    for (const name of READINGS) this.arena.buffer(`${id}/${name}`, 4 * swarm.capacity);
    const time = timeOf(this.frame + 1, this.plan!.frame.rate);
    const inputs: FrameInputs = { frame: this.frame, time, width: 0, height: 0, born };
    this.kernels.run(swarm.readings(), 0, swarm.capacity, this.address(swarm), inputs);
    const view = (name: string): Float32Array =>
      this.floats(this.arena.address(`${id}/${name}`), swarm.capacity).slice();
    return Object.fromEntries(READINGS.map((n) => [n, view(n)])) as ReturnType<
      CpuEngine['readings']
    >;
  }

  /** Ids below this have been born. */
  born(id: string): number {
    return this.bornAt(
      this.plan!.swarms.find((s) => s.id === id)!,
      this.frame,
    );
  }
}
