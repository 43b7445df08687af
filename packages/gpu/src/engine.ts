import {
  bornAt,
  copyUniforms,
  DRAWN,
  particlesOf,
  READINGS,
  remap,
  slotRanges,
  STATE,
  timeOf,
  type DrawMode,
  type Engine,
  type FrameInputs,
  type Particles,
  type Plan,
  type Snapshot,
  type SwarmPlan,
} from '@vast-swarm/core';
import { GpuLost, openDevice, type OpenOptions } from './device';
import { FrameMemory, floatWord, TARGET_FORMAT } from './frameMemory';
import { CELLS, COUNT_ALIVE, DISCS, PLANES_TO_TARGET, SORT } from './shaders';
import { SwarmMemory } from './swarmMemory';
import { Pipelines, Work } from './work';

/** Invocations in one row of the shaders that take long lists. */
const LIST_ROW = 65536;

function listGroups(count: number): [number, number] {
  return [Math.min(LIST_ROW / 64, Math.ceil(count / 64)), Math.ceil(count / LIST_ROW)];
}

/** The stages of a bitonic sort; the order of the frame before is as good a start as any. */
function bitonic(size: number, stage: (k: number, j: number, groups: [number, number]) => void) {
  const groups = listGroups(size);
  for (let k = 2; k <= size; k *= 2) {
    for (let j = k / 2; j >= 1; j /= 2) stage(k, j, groups);
  }
}

/** Takes a swarm's state from its bake; before and behind what is stored there is nothing. */
function replay(memory: SwarmMemory, { bake, state }: SwarmPlan, frame: number): void {
  const stored = frame >= bake!.first && frame <= bake!.last ? bake!.read(frame) : [];
  for (const name of state) {
    const values = new Float32Array(memory.capacity);
    const known = stored[bake!.state.indexOf(name)];
    if (known) values.set(known);
    memory.put(name, values);
  }
}

const one = { operation: 'add', srcFactor: 'one' } as const;
/** The draw modes as blending: see the CPU engine's discs for their formulas. */
const BLENDS: Record<DrawMode, GPUBlendState> = {
  add: { color: { ...one, dstFactor: 'one' }, alpha: { ...one, dstFactor: 'one' } },
  screen: {
    color: { ...one, dstFactor: 'one-minus-src' },
    alpha: { ...one, dstFactor: 'one' },
  },
  normal: {
    color: { ...one, dstFactor: 'one-minus-src-alpha' },
    alpha: { ...one, dstFactor: 'one' },
  },
};

class GpuSnapshot implements Snapshot {
  readonly bytes: number;

  constructor(
    readonly frame: number,
    readonly states: ReadonlyMap<string, GPUBuffer>,
  ) {
    this.bytes = [...states.values()].reduce((sum, b) => sum + b.size, 0);
  }

  release(): void {
    for (const buffer of this.states.values()) buffer.destroy();
  }
}

/** Runs plans on the graphics card: the same kernels in WGSL, discs into a 16-bit float target. */
export class GpuEngine implements Engine {
  frame = -1;
  /** Particles alive by swarm; a frame or two late. */
  alive: Readonly<Record<string, number>> = {};
  readonly times: Record<string, number> = { frame: 0 };
  private pipelines: Pipelines;
  private plan: Plan | null = null;
  private swarms = new Map<string, SwarmMemory>();
  private orders = new Map<string, GPUBuffer>();
  private target: FrameMemory | null = null;
  private canvas: GPUCanvasContext | null = null;
  private lost = false;
  private counting = false;

  private constructor(
    private device: GPUDevice,
    private readonly options: OpenOptions,
  ) {
    this.pipelines = new Pipelines(device);
    this.watch();
  }

  /** An engine, or in words why there can be none. */
  static async open(options: OpenOptions): Promise<GpuEngine | string> {
    const device = await openDevice(options);
    return typeof device === 'string' ? device : new GpuEngine(device, options);
  }

  private watch(): void {
    const { device } = this;
    void device.lost.then(() => {
      if (device === this.device) this.lost = true;
    });
  }

  attach(canvas: OffscreenCanvas): void {
    this.canvas = canvas.getContext('webgpu')!;
    this.configure();
  }

  private configure(): void {
    const format = navigator.gpu.getPreferredCanvasFormat();
    this.canvas?.configure({ device: this.device, format, alphaMode: 'opaque' });
  }

  /** A new device after a loss; the state has to be made again. */
  async recover(): Promise<void> {
    const device = await openDevice(this.options);
    if (typeof device === 'string') throw new GpuLost(`The graphics card is gone: ${device}.`);
    this.device = device;
    this.lost = false;
    this.counting = false;
    this.pipelines = new Pipelines(device);
    this.swarms = new Map();
    this.orders = new Map();
    this.target = null;
    this.watch();
    this.configure();
    const { plan } = this;
    if (plan) {
      this.frame = -plan.frame.preroll - 1;
      this.setPlan(plan);
    }
  }

  /** As if the device had been lost; for tests of what happens then. */
  loseDevice(): void {
    this.device.destroy();
  }

  get memoryBytes(): number {
    const swarms = [...this.swarms.values()].reduce((sum, s) => sum + s.buffer.size, 0);
    return swarms + (this.target?.buffer.size ?? 0);
  }

  private check(): void {
    if (this.lost) throw new GpuLost('The graphics card was lost.');
  }

  setPlan(plan: Plan): void {
    const first = this.plan === null;
    this.plan = plan;
    const work = new Work(this.pipelines);
    const before = this.swarms;
    this.swarms = new Map(plan.swarms.map((s) => [s.id, this.prepare(s, before.get(s.id), work)]));
    work.submit();
    for (const [id, memory] of before) if (this.swarms.get(id) !== memory) memory.buffer.destroy();
    for (const swarm of plan.swarms) this.swarms.get(swarm.id)!.write(swarm);
    if (first) this.reset();
  }

  /** Keeps a swarm's memory, or moves its state to a new one of the right size. */
  private prepare(swarm: SwarmPlan, old: SwarmMemory | undefined, work: Work): SwarmMemory {
    const parent = this.plan!.swarms.find((s) => s.id === swarm.parent)?.capacity ?? 0;
    if (old?.fits(swarm, parent)) return old;
    const fresh = new SwarmMemory(this.device, swarm, parent);
    if (!old) return fresh;
    const born = this.bornAt(swarm, this.frame);
    for (const name of swarm.state.filter((n) => old.state.includes(n))) {
      for (const { from, to, count } of remap(born, old.capacity, swarm.capacity)) {
        const at = 4 * (old.address(name) + from);
        work.copy(old.buffer, at, fresh.buffer, 4 * (fresh.address(name) + to), 4 * count);
      }
    }
    return fresh;
  }

  private bornAt(swarm: SwarmPlan, frame: number): number {
    return bornAt(swarm, frame, this.plan!.frame.rate);
  }

  reset(): void {
    this.frame = -this.plan!.frame.preroll - 1;
    const work = new Work(this.pipelines);
    for (const memory of this.swarms.values()) {
      work.clear(memory.buffer);
      memory.forget();
    }
    work.submit();
    for (const swarm of this.plan!.swarms) this.swarms.get(swarm.id)!.write(swarm);
  }

  step(): void {
    this.check();
    const plan = this.plan!;
    const frame = this.frame + 1;
    const { rate } = plan.frame;
    const [from, to] = [timeOf(frame, rate), timeOf(frame + 1, rate)];
    const work = new Work(this.pipelines);
    for (const swarm of plan.swarms) {
      const memory = this.swarms.get(swarm.id)!;
      if (swarm.bake) {
        replay(memory, swarm, frame);
        continue;
      }
      const born = this.bornAt(swarm, frame);
      const inputs: FrameInputs = { frame, time: from, width: 0, height: 0, born };
      if (swarm.parent !== null) this.copyParent(work, swarm.parent, memory);
      for (const event of swarm.births.between(from, to)) {
        for (const { begin, end, idOffset } of slotRanges(event, swarm.capacity)) {
          work.kernel(swarm.birth, memory.buffer, begin, end, memory.address, inputs, {
            idOffset,
            first: event.first,
            count: event.count,
            ageFirst: from - event.time,
            ageStep: event.every,
          });
        }
      }
      const slots = Math.min(born, swarm.capacity);
      if (swarm.grid && slots > 0) this.sortCells(work, swarm, slots, inputs);
      work.kernel(swarm.motion, memory.buffer, 0, slots, memory.address, inputs);
    }
    work.submit();
    this.frame = frame;
  }

  jump(frame: number): boolean {
    const { swarms } = this.plan!;
    if (swarms.length === 0 || !swarms.every((s) => s.bake)) return false;
    for (const swarm of swarms) replay(this.swarms.get(swarm.id)!, swarm, frame);
    this.frame = frame;
    return true;
  }

  /** The state of the swarm that this one is born from, where its births can read it. */
  private copyParent(work: Work, id: string, memory: SwarmMemory): void {
    const parent = this.swarms.get(id)!;
    for (const name of STATE) {
      const [from, to] = [4 * parent.address(name), 4 * memory.address(`parent.${name}`)];
      work.copy(parent.buffer, from, memory.buffer, to, 4 * parent.capacity);
    }
  }

  /** Readies the grid that a swarm's particles find their neighbours by. */
  private sortCells(work: Work, swarm: SwarmPlan, slots: number, inputs: FrameInputs): void {
    const { address, buffer } = this.swarms.get(swarm.id)!;
    const { cellsOf, gather, cells } = swarm.grid!;
    work.kernel(cellsOf, buffer, 0, slots, address, inputs);
    const order = this.order(`${swarm.id}/cells`, slots);
    const places = ['near.cell', 'near.order', 'near.start'].map(address);
    const words = (k: number, j: number): number[] => [...places, k, j, slots, cells];
    const more = [{ buffer: order }];
    bitonic(order.size / 4, (k, j, groups) => {
      work.run(CELLS, 'exchange', buffer, words(k, j), groups, more);
    });
    work.run(CELLS, 'starts', buffer, words(0, 0), listGroups(slots), more);
    work.kernel(gather, buffer, 0, slots, address, inputs);
  }

  /** Draws the state into the frame's memory, up to the finished words. */
  private draw(width: number, height: number): FrameMemory {
    this.check();
    const plan = this.plan!;
    if (this.target?.width !== width || this.target.height !== height) {
      this.target?.destroy();
      this.target = new FrameMemory(this.device, width, height);
    }
    const frame = this.target;
    const time = timeOf(this.frame + 1, plan.frame.rate);
    const camera = plan.camera(time);
    const inputs: FrameInputs = { frame: this.frame, time, width, height, born: 0, camera };
    const pixels = frame.planes.stride * height;
    const work = new Work(this.pipelines);
    const view = frame.target.createView();
    work.kernel(plan.backdrop, frame.buffer, 0, pixels, frame.address, inputs);
    const fill = this.pipelines.render(PLANES_TO_TARGET, 'light', TARGET_FORMAT);
    work.draw(fill, view, true, frame.buffer, frame.words, 3);
    for (const swarm of plan.drawing) this.drawSwarm(work, swarm, view, inputs);
    frame.targetToPlanes(work);
    for (const step of plan.finish) {
      if (step.type === 'bloom') frame.bloom(work, step.at(time));
      else work.kernel(step.kernel, frame.buffer, 0, pixels, frame.address, inputs);
    }
    work.submit();
    return frame;
  }

  private drawSwarm(work: Work, swarm: SwarmPlan, view: GPUTextureView, inputs: FrameInputs): void {
    const memory = this.swarms.get(swarm.id)!;
    const count = this.look(work, swarm, memory, inputs);
    if (count === 0) return;
    const sorted = swarm.mode === 'normal';
    const order = this.order(swarm.id, sorted ? count : 1);
    if (sorted) this.sort(work, memory, order, count);
    const words = [
      ...DRAWN.map(memory.address),
      ...[inputs.width, inputs.height, floatWord(swarm.edge), sorted ? 1 : 0],
    ];
    const entry = swarm.mode === 'screen' ? 'screened' : 'light';
    const pipeline = this.pipelines.render(DISCS, entry, TARGET_FORMAT, BLENDS[swarm.mode]);
    work.draw(pipeline, view, false, memory.buffer, words, 6 * count, [{ buffer: order }]);
  }

  /** Works out what is drawn of a swarm, repeat after repeat; gives how many entries there are. */
  private look(work: Work, swarm: SwarmPlan, memory: SwarmMemory, inputs: FrameInputs): number {
    const born = this.bornAt(swarm, this.frame);
    const count = Math.min(born, swarm.capacity);
    const now = { ...inputs, born };
    if (swarm.copies.length === 1) {
      work.kernel(swarm.look, memory.buffer, 0, count, memory.address, now);
      return count;
    }
    const stride = (count + 3) & ~3;
    const drawn: readonly string[] = DRAWN;
    swarm.copies.forEach((matrix, i) => {
      const shifted = (name: string): number =>
        memory.address(name) + (drawn.includes(name) ? stride * i : 0);
      const extra = copyUniforms(matrix);
      // Widened to the stride, so that nothing of an earlier frame stands between two repeats.
      const end = Math.min(stride, swarm.capacity);
      work.kernel(swarm.look, memory.buffer, 0, end, shifted, now, extra);
    });
    return stride * swarm.copies.length;
  }

  /** A buffer for the order of a swarm's discs: a power of two that takes them. */
  private order(name: string, count: number): GPUBuffer {
    const size = 4 * 2 ** Math.ceil(Math.log2(Math.max(64, count)));
    const known = this.orders.get(name);
    if (known && known.size === size) return known;
    known?.destroy();
    const usage = GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_DST;
    const made = this.device.createBuffer({ size, usage });
    this.device.queue.writeBuffer(
      made,
      0,
      Uint32Array.from({ length: size / 4 }, (_, i) => i),
    );
    this.orders.set(name, made);
    return made;
  }

  private sort(work: Work, memory: SwarmMemory, order: GPUBuffer, count: number): void {
    bitonic(order.size / 4, (k, j, groups) => {
      const words = [memory.address('depth'), 0, count, k, j];
      work.run(SORT, 'exchange', memory.buffer, words, groups, [{ buffer: order }]);
    });
  }

  /** Draws, and shows the frame on the canvas. */
  async present(width: number, height: number): Promise<void> {
    const started = performance.now();
    const frame = this.draw(width, height);
    const { canvas } = this.canvas!;
    if (canvas.width !== width || canvas.height !== height) {
      canvas.width = width;
      canvas.height = height;
    }
    const format = navigator.gpu.getPreferredCanvasFormat();
    const work = new Work(this.pipelines);
    const pipeline = this.pipelines.render(PLANES_TO_TARGET, 'finished', format);
    const view = this.canvas!.getCurrentTexture().createView();
    work.draw(pipeline, view, true, frame.buffer, frame.words, 3);
    work.submit();
    if (!this.counting) void this.countAlive();
    await this.device.queue.onSubmittedWorkDone();
    this.check();
    this.times.frame = performance.now() - started;
  }

  /** Brings the counts of the living over, without waiting for them. */
  private async countAlive(): Promise<void> {
    this.counting = true;
    const { swarms } = this.plan!;
    const size = 4 * Math.max(4, swarms.length);
    const { STORAGE, COPY_SRC, COPY_DST, MAP_READ } = GPUBufferUsage;
    const counts = this.device.createBuffer({ size, usage: STORAGE | COPY_SRC });
    const back = this.device.createBuffer({ size, usage: COPY_DST | MAP_READ });
    const work = new Work(this.pipelines);
    swarms.forEach(({ id, capacity }, i) => {
      const { buffer, address } = this.swarms.get(id)!;
      const words = [address('age'), address('life'), capacity, i];
      work.run(COUNT_ALIVE, 'main', buffer, words, listGroups(capacity), [{ buffer: counts }]);
    });
    work.copy(counts, 0, back, 0, size);
    work.submit();
    try {
      await back.mapAsync(GPUMapMode.READ);
      const values = new Uint32Array(back.getMappedRange());
      this.alive = Object.fromEntries(swarms.map(({ id }, i) => [id, values[i]!]));
    } catch {
      // The device went away meanwhile; the next frame says so.
    }
    counts.destroy();
    back.destroy();
    this.counting = false;
  }

  save(): Snapshot {
    const work = new Work(this.pipelines);
    const usage = GPUBufferUsage.COPY_SRC | GPUBufferUsage.COPY_DST;
    const states = [...this.swarms].map(([id, memory]) => {
      const copy = this.device.createBuffer({ size: memory.stateBytes, usage });
      work.copy(memory.buffer, 0, copy, 0, memory.stateBytes);
      return [id, copy] as const;
    });
    work.submit();
    return new GpuSnapshot(this.frame, new Map(states));
  }

  restore(snapshot: Snapshot): void {
    if (!(snapshot instanceof GpuSnapshot)) throw new Error('gpu: a snapshot of another engine');
    const { frame, states } = snapshot;
    const work = new Work(this.pipelines);
    for (const [id, memory] of this.swarms) {
      work.copy(states.get(id)!, 0, memory.buffer, 0, memory.stateBytes);
    }
    work.submit();
    for (const swarm of this.plan!.swarms) {
      if (swarm.bake) replay(this.swarms.get(swarm.id)!, swarm, frame);
    }
    this.frame = frame;
  }

  private async read(from: GPUBuffer, at: number, bytes: number): Promise<ArrayBuffer> {
    const usage = GPUBufferUsage.COPY_DST | GPUBufferUsage.MAP_READ;
    const back = this.device.createBuffer({ size: bytes, usage });
    const work = new Work(this.pipelines);
    work.copy(from, at, back, 0, bytes);
    work.submit();
    await back.mapAsync(GPUMapMode.READ);
    const data = back.getMappedRange().slice(0);
    back.destroy();
    return data;
  }

  /** One quantity of all slots of a swarm, brought over from the card. */
  async readState(id: string, name: string): Promise<Float32Array> {
    const memory = this.swarms.get(id)!;
    const at = 4 * memory.address(name);
    return new Float32Array(await this.read(memory.buffer, at, 4 * memory.capacity));
  }

  /** The whole state of a swarm: the slots in use, in the order of SwarmPlan.state. */
  async stateOf(id: string): Promise<Float32Array[]> {
    const { capacity, state } = this.swarms.get(id)!;
    const count = Math.min(this.born(id), capacity);
    const all: Float32Array[] = [];
    for (const name of state) all.push((await this.readState(id, name)).subarray(0, count));
    return all;
  }

  /** All that is to be known of a swarm's particles now, by slot; brought over from the card. */
  async particles(id: string): Promise<Particles> {
    const swarm = this.plan!.swarms.find((s) => s.id === id)!;
    const memory = this.swarms.get(id)!;
    const time = timeOf(this.frame + 1, this.plan!.frame.rate);
    const born = this.bornAt(swarm, this.frame);
    const inputs: FrameInputs = { frame: this.frame, time, width: 0, height: 0, born };
    // What is drawn is worked out anew for every frame: until then its place can hold readings.
    const address = (name: string): number => {
      const at = (READINGS as readonly string[]).indexOf(name);
      return memory.address(at < 0 ? name : DRAWN[at]!);
    };
    const work = new Work(this.pipelines);
    work.kernel(swarm.readings(), memory.buffer, 0, swarm.capacity, address, inputs);
    work.submit();
    const found = new Map<string, Float32Array>();
    for (const name of [...STATE, ...READINGS]) {
      const bytes = await this.read(memory.buffer, 4 * address(name), 4 * swarm.capacity);
      found.set(name, new Float32Array(bytes));
    }
    return particlesOf((name) => found.get(name)!);
  }

  /** Ids below this have been born. */
  born(id: string): number {
    return this.bornAt(
      this.plan!.swarms.find((s) => s.id === id)!,
      this.frame,
    );
  }

  /** Draws a frame and brings it over: sRGB words, rows of a multiple of four pixels. */
  async readFrame(width: number, height: number): Promise<Uint8ClampedArray> {
    const frame = this.draw(width, height);
    const bytes = 4 * frame.planes.stride * height;
    return new Uint8ClampedArray(await this.read(frame.buffer, 4 * frame.out, bytes));
  }
}
